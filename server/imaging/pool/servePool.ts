import workerpool from 'workerpool';
import type { TaskTable } from './processPool.ts';

/** What a process tells while it works. */
export type ProcessEvent =
  | { readonly kind: 'begun'; readonly pid: number }
  /** A mark is being drawn, which has a limit of its own. */
  | { readonly kind: 'drawing' }
  | { readonly kind: 'drawn' };

/** Offers tasks to the pool that started this process; it ends with that. */
export function servePool(tasks: TaskTable): void {
  // Libraries remark on what they read; the standard output belongs to the command line's results.
  // eslint-disable-next-line no-console -- it is turned away from, not written to
  for (const way of ['log', 'info', 'debug'] as const) console[way] = console.error;
  const work = (name: string, values: never[]): Promise<unknown> => {
    tell({ kind: 'begun', pid: process.pid });
    // Pixels of the photo before are freed as soon as the few objects that hold them are looked through, which
    // takes a millisecond. Left to themselves, those of ten photos lie about.
    void globalThis.gc?.({ type: 'minor' });
    return tasks[name](...values);
  };
  workerpool.worker({ work });
  // Ctrl+C reaches every process of a terminal: whoever began this one decides what is finished.
  process.on('SIGINT', () => undefined);
  // The server is gone while something was told to it: there is nobody to work for.
  process.on('error', () => process.exit(1));
}

export function tell(event: ProcessEvent): void {
  workerpool.workerEmit(event);
}
