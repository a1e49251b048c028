import type { RunDocumentsView, RunItemView, RunView } from '#core/contract/http';

/** What `light-crest run` prints: a line for each output, a photo's or a document of all photos. */

/** What became of an output. */
interface OutputLine {
  /** Null: it is of all photos. */
  readonly source: string | null;
  readonly delivery: string;
  /** Its path, while there is one. */
  readonly output: string | null;
  readonly status: 'written' | 'skipped' | 'failed' | 'cancelled';
  readonly error: string | null;
  /** Null: it was not opened again. */
  readonly verified: boolean | null;
}

export const isEnded = ({ status }: RunItemView): boolean => endOf(status) !== null;

function endOf(status: RunItemView['status']): OutputLine['status'] | null {
  return status === 'waiting' || status === 'working' || status === 'naming' ? null : status;
}

/** @param item that has ended; one that is part of a document is an output only where it failed */
export function printItem(item: RunItemView, { deliveries }: RunView, json: boolean): void {
  const { name: delivery, folder, kind } = deliveries[item.delivery - 1];
  const status = endOf(item.status);
  if (status === null || (kind !== 'files' && status !== 'failed')) return;
  const { sourceName: source, error, outputName, readBack } = item;
  const output = outputName === null ? null : `${folder}/${outputName}`;
  const verified = readBack ? readBack.problem === null : null;
  print({ source, delivery, output, status, error, verified }, json);
  const problem = error ?? readBack?.problem ?? null;
  const told = problem ?? (status === 'skipped' && !json ? `skipped, ${output} exists.` : null);
  if (told !== null) process.stderr.write(`light-crest: ${source}: ${told}\n`);
}

/** The documents of a delivery, once their run has ended. */
export function printDocuments(
  { delivery: number, written, skipped, outputName, error }: RunDocumentsView,
  { deliveries }: RunView,
  json: boolean,
): void {
  const { name: delivery, folder } = deliveries[number - 1];
  const output = outputName === null ? null : `${folder}/${outputName}`;
  const made = written > 0 ? 'written' : skipped > 0 ? 'skipped' : 'cancelled';
  const status = error === null ? made : 'failed';
  print({ ...{ source: null, verified: null }, delivery, output, status, error }, json);
  const more = written > 1 ? `${written} files, ${outputName} the first.` : null;
  for (const told of [error, more]) {
    if (told !== null) process.stderr.write(`light-crest: ${delivery}: ${told}\n`);
  }
}

function print(line: OutputLine, json: boolean): void {
  if (json) process.stdout.write(`${JSON.stringify(line)}\n`);
  else if (line.output !== null) process.stdout.write(`${line.output}\n`);
}
