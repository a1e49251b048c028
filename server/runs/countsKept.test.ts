import { beforeEach, expect, it, vi } from 'vitest';
import type { RunCounts } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { CountsKept } from './countsKept.ts';

let change: number;
let counts: ReturnType<typeof vi.fn<(id: number) => RunCounts>>;
let kept: CountsKept;
beforeEach(() => {
  change = 5;
  counts = vi.fn((id) => ({ total: id }) as RunCounts);
  const tables = { runs: { counts }, items: { lastChange: () => change } };
  kept = new CountsKept(tables as unknown as Pick<Tables, 'runs' | 'items'>);
});

const done = { id: 7, state: 'done', finishedAt: '2026-05-01' } as const;

it('of a run that has ended are counted once, and of each by itself', () => {
  kept.of(done);
  expect(kept.of(done)).toEqual({ total: 7 });
  expect(kept.of({ ...done, id: 8 })).toEqual({ total: 8 });
  expect(counts).toHaveBeenCalledTimes(2);
});

it('are counted anew when one of its outputs has ended since, or the run once more', () => {
  kept.of(done);
  change++;
  kept.of(done);
  kept.of({ ...done, finishedAt: '2026-05-02' });
  expect(counts).toHaveBeenCalledTimes(3);
});

it('of a run under way are counted each time', () => {
  kept.of({ id: 7, state: 'running', finishedAt: null });
  kept.of({ id: 7, state: 'running', finishedAt: null });
  expect(counts).toHaveBeenCalledTimes(2);
});
