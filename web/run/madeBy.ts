import type { RunItemView } from '#core/contract/http';

/** Who made the outputs of a run, most first; empty where no worker helped. */
export function madeByText(items: readonly RunItemView[]): string {
  const made = items.filter(({ status }) => status === 'written');
  if (made.every(({ madeBy }) => madeBy === null)) return '';
  const counts = new Map<string, number>();
  for (const { madeBy } of made) {
    const name = madeBy ?? 'this machine';
    counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  const parts = [...counts].sort(([, a], [, b]) => b - a);
  return `Made by ${parts.map(([name, count]) => `${name} (${count})`).join(', ')}.`;
}
