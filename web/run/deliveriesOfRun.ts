import type { RunView } from '#core/contract/http';

/** The names of a run's deliveries, as a line. */
export function deliveryNames({ deliveries }: RunView): string {
  return deliveries.map(({ name }) => name).join(', ');
}

/** The folders of a run, each once. */
export function runFolders({ deliveries }: RunView): string[] {
  return [...new Set(deliveries.map(({ folder }) => folder))];
}
