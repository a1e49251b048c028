import { LRUCache } from 'lru-cache';
import type { RunCounts, RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';

/** More runs than are listed. */
const MOST_KEPT = 500;

/**
 * What runs have come to. Of one that has ended it is counted once for as long as nothing of it changes:
 * each list asks for all of them, and together they may have millions of outputs.
 */
export class CountsKept {
  private readonly kept = new LRUCache<string, RunCounts>({ max: MOST_KEPT });

  constructor(private readonly tables: Pick<Tables, 'runs' | 'items'>) {}

  of({ id, state, finishedAt }: Pick<RunRow, 'id' | 'state' | 'finishedAt'>): RunCounts {
    const { runs, items } = this.tables;
    if (state === 'running' || state === 'paused') return runs.counts(id);
    const key = `${id} ${finishedAt} ${items.lastChange(id)}`;
    const counts = this.kept.get(key) ?? runs.counts(id);
    this.kept.set(key, counts);
    return counts;
  }
}
