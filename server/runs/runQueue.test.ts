import { mkdirSync, mkdtempSync, readdirSync, realpathSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { pino } from 'pino';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { RunView } from '#core/contract/http';
import { DEFAULT_DELIVERY, deliveryRuleSchema } from '#core/contract/delivery';
import { DEFAULT_RULE } from '#core/contract/preset';
import { failure, success } from '#core/result';
import { openDatabase, type Db } from '../db/open.ts';
import type { NewItem } from '../db/runItemRows.ts';
import { openTables, type Tables } from '../db/tables.ts';
import type { RenderJob } from '../imaging/pass/renderJob.ts';
import { photosAtOnce, PIXELS_AT_ONCE } from '../imaging/limits.ts';
import { AllowedFolders } from '../storage/allowedFolders.ts';
import { dataPaths } from '../storage/dataPaths.ts';
import { eventually } from '../../tests/helpers/eventually.ts';
import { Portions } from '../db/portions.ts';
import { RunQueue, type QueueParts } from './runQueue.ts';

/** The queue with imaging that only waits: what is begun when, and what becomes of it. */

const MEGAPIXEL = 1_000_000;

let folder: string;
let db: Db;
let tables: Tables;
let queue: RunQueue;
let told: RunView[];
/** Pixels in work, by the name of the source, and the most there were at once. */
let working: Map<string, number>;
let most: { pixels: number; photos: number };
let renderMs: number;
let outcome: (job: RenderJob) => string | null;
/** How many outputs each render made. */
let rendered: number[];

beforeEach(() => {
  folder = realpathSync(mkdtempSync(join(tmpdir(), 'light-crest-queue-')));
  const paths = dataPaths(join(folder, 'data'));
  paths.prepare();
  db = openDatabase(paths.database, join(folder, 'data'));
  tables = openTables(db, join(folder, 'data'));
  told = [];
  working = new Map();
  most = { pixels: 0, photos: 0 };
  renderMs = 20;
  rendered = [];
  outcome = () => null;
  const parts: QueueParts = {
    ...{ tables, paths, log: pino({ level: 'silent' }), tell: (run) => void told.push(run) },
    allowed: new AllowedFolders(() => [folder]),
    marks: { artworkFile: () => ({}) } as never,
    freshness: { current: (photo: unknown) => success(photo) } as never,
    imaging: { render, room, leave: () => undefined, sweep: async () => undefined } as never,
    portions: new Portions(tables),
  };
  queue = new RunQueue(parts);
});
afterEach(async () => {
  await queue.close();
  db.close();
  rmSync(folder, { recursive: true });
});

const room = () => ({ photos: photosAtOnce(), pixels: PIXELS_AT_ONCE });

async function render(job: RenderJob, _mark: unknown, pixels: number, signal: AbortSignal) {
  rendered.push(job.outputs.length);
  working.set(job.source, pixels);
  const inWork = [...working.values()];
  most = {
    pixels: Math.max(
      most.pixels,
      inWork.reduce((sum, some) => sum + some, 0),
    ),
    photos: Math.max(most.photos, inWork.length),
  };
  await delay(renderMs, undefined, { signal }).catch(() => undefined);
  working.delete(job.source);
  const reason = signal.aborted ? 'It was given up.' : outcome(job);
  if (reason !== null) return job.outputs.map(() => failure(reason));
  return job.outputs.map(({ temporaryPath }) => {
    writeFileSync(temporaryPath, 'output');
    return success({
      ...{ frame: { width: 30, height: 20 }, marks: [], note: null },
      ...{ yearFromFile: null, bytesBefore: 9, bytesAfter: 6, durationMs: 1 },
    });
  });
}

function beginRun(megapixels: readonly number[], ...parts: readonly object[]): number {
  const box = { x: 0, y: 0, width: 1, height: 1 };
  const markId = tables.marks.insert('m', {
    ...{ kind: 'svg', natural: box, ink: box, notes: [] },
    ...{ origin: { kind: 'file' }, box: null, hasPixels: false, isPending: false },
  });
  const deliveries = (parts.length > 0 ? parts : [{}]).map((part, index) => {
    const out = join(folder, index === 0 ? 'out' : `out ${index + 1}`);
    mkdirSync(out, { recursive: true });
    const rule = deliveryRuleSchema.parse({ ...DEFAULT_DELIVERY, resize: null, ...part });
    return {
      deliveryId: null,
      name: `d ${index}`,
      folder: out,
      makesFolder: false,
      zip: false,
      rule,
    };
  });
  const items = megapixels.flatMap((some, index) =>
    deliveries.map((_, at): NewItem => ({
      ...{ number: index + 1, delivery: at + 1, photoId: null as never, capturedAt: null },
      ...{ adjustment: {}, own: null, over: null },
      sourcePath: join(folder, `${index}.jpg`),
      sourceName: `${index}.jpg`,
      width: 1_000,
      height: (some * MEGAPIXEL) / 1_000,
    })),
  );
  const run = {
    ...{ batchId: null, batchName: 'b', presetId: null, presetName: 'p' },
    ...{ rule: DEFAULT_RULE, markId, markVersion: 1, over: [], deliveries },
  };
  return queue.begin({ run, items });
}

/** What a queue that was begun has taken up, however long the machine takes for it. */
const inWork = (count: number): Promise<void> => eventually(() => expect(working.size).toBe(count));

async function ended(id: number): Promise<void> {
  const isOpen = (): boolean => tables.runs.get(id)?.state === 'running';
  for (let waited = 0; isOpen() && waited < 60_000; waited += 10) await delay(10);
  await queue.settled(id);
  await delay(20);
}

describe('what is worked on at once', () => {
  it('is bounded in photos', async () => {
    await ended(beginRun(Array(12).fill(1)));
    expect(most.photos).toBe(photosAtOnce());
  });

  it('is bounded in pixels, the next photo included', async () => {
    await ended(beginRun([43, 43, 43, 300, 43, 43]));
    expect(most.pixels).toBe(300 * MEGAPIXEL);
    most = { pixels: 0, photos: 0 };
    await ended(beginRun([60, 60, 60, 60]));
    expect(most.pixels).toBeLessThanOrEqual(130 * MEGAPIXEL);
  });

  it('counts outputs that are larger than their photos', async () => {
    const large = { rule: 'long-side', px: 20_000, enlarge: true };
    await ended(beginRun([4, 4, 4], { resize: large }));
    expect(most.photos).toBe(1);
  });
});

describe('a run', () => {
  it('ends, tells of it, and leaves nothing but its outputs', async () => {
    const id = beginRun([1, 1, 1, 1, 1]);
    await ended(id);
    expect(told.at(-1)).toMatchObject({ id, state: 'done', written: 5 });
    expect(readdirSync(join(folder, 'out')).sort()).toEqual(
      [0, 1, 2, 3, 4].map((number) => `${number}-web.jpg`),
    );
    const times = told.map((view) => view.told);
    expect([...times].sort((a, b) => a - b)).toEqual(times);
  });

  it('goes on past a photo that fails, and past one that throws', async () => {
    outcome = ({ source }) => {
      if (source.endsWith('1.jpg')) return '1.jpg is damaged.';
      if (source.endsWith('2.jpg')) throw new Error('odd');
      return null;
    };
    const id = beginRun([1, 1, 1, 1]);
    await ended(id);
    const items = tables.items.ofRun(id);
    expect(items.map(({ status }) => status)).toEqual(['written', 'failed', 'failed', 'written']);
    expect(items[2].error).toContain('odd');
  });

  it('outlives a database that cannot be written for a while', async () => {
    const { finish, waiting } = tables.items;
    let failures = 0;
    const failing =
      <A extends unknown[], R>(work: (...values: A) => R) =>
      (...values: A): R => {
        if (failures++ < 2) throw new Error('database or disk is full');
        return work(...values);
      };
    Object.assign(tables.items, { finish: failing(finish) });
    const id = beginRun([1, 1, 1]);
    await ended(id);
    expect(tables.items.ofRun(id).map(({ status }) => status)).toEqual(Array(3).fill('written'));
    failures = 0;
    Object.assign(tables.items, { waiting: failing(waiting) });
    const second = beginRun([1]);
    await ended(second);
    expect(tables.runs.get(second)?.state).toBe('done');
  });

  it('that is cancelled lets what is in work finish, and ends with it', async () => {
    renderMs = 300;
    const id = beginRun(Array(9).fill(1));
    await inWork(photosAtOnce());
    const run = tables.runs.get(id);
    if (!run) throw new Error('gone');
    queue.cancel(run);
    await queue.settled(id);
    const { written, cancelled, total } = tables.runs.counts(id);
    expect([written, written + cancelled]).toEqual([photosAtOnce(), total]);
    expect(tables.runs.get(id)?.state).toBe('cancelled');
    await queue.retry(tables.runs.get(id) ?? run);
    await ended(id);
    expect(tables.runs.counts(id).written).toBe(total);
  });

  it('by several deliveries decodes each photo once, and writes into each folder', async () => {
    const id = beginRun([1, 1, 1], {}, { name_pattern: '{name}-b' });
    await ended(id);
    expect(rendered).toEqual([2, 2, 2]);
    expect(tables.runs.counts(id)).toMatchObject({ total: 6, written: 6, bytesBefore: 27 });
    expect(readdirSync(join(folder, 'out')).sort()).toHaveLength(3);
    expect(readdirSync(join(folder, 'out 2')).sort()).toEqual(['0-b.jpg', '1-b.jpg', '2-b.jpg']);
  });

  it('makes no output that is skipped, and still the others of that photo', async () => {
    await ended(beginRun([1]));
    rendered = [];
    const id = beginRun([1], { existing: 'skip' }, { existing: 'skip' });
    await ended(id);
    expect(rendered).toEqual([1]);
    expect(tables.items.ofRun(id).map(({ status }) => status)).toEqual(['skipped', 'written']);
  });

  it('one of whose folders is gone does the outputs for the other', async () => {
    renderMs = 60;
    const id = beginRun([1, 1, 1, 1, 1], {}, {});
    rmSync(join(folder, 'out 2'), { recursive: true });
    await ended(id);
    const statuses = tables.items.ofRun(id).map(({ status, delivery }) => `${delivery} ${status}`);
    expect(new Set(statuses)).toEqual(new Set(['1 written', '2 failed']));
    mkdirSync(join(folder, 'out 2'));
    rendered = [];
    await queue.retry(tables.runs.get(id) ?? (null as never));
    await ended(id);
    expect(rendered).toEqual([1, 1, 1, 1, 1]);
    expect(tables.runs.counts(id).written).toBe(10);
  });

  it('never gives two deliveries into one folder the same name', async () => {
    const id = beginRun([1, 1], { existing: 'replace' }, {});
    db.prepare('UPDATE run_deliveries SET folder = ?').run(join(folder, 'out'));
    await ended(id);
    const names = tables.items.ofRun(id).map(({ output }) => output?.split('/').at(-1));
    expect(names).toEqual(['0-web.jpg', '0-web-2.jpg', '1-web.jpg', '1-web-2.jpg']);
  });

  it('that is paused begins nothing, and goes on from there', async () => {
    renderMs = 60;
    const id = beginRun(Array(8).fill(1));
    await inWork(photosAtOnce());
    const run = tables.runs.get(id);
    if (!run) throw new Error('gone');
    queue.pause(run);
    await queue.settled(id);
    const before = tables.runs.counts(id).written;
    await delay(120);
    expect(tables.runs.counts(id).written).toBe(before);
    await queue.resume(tables.runs.get(id) ?? run);
    await ended(id);
    expect(tables.runs.counts(id).written).toBe(8);
  });

  it('that the server was closed under is taken up where it was', async () => {
    renderMs = 5_000;
    const id = beginRun([1, 1, 1, 1]);
    await inWork(photosAtOnce());
    await queue.close();
    expect(tables.items.interrupted(id)).toHaveLength(photosAtOnce());
    renderMs = 10;
    queue = new RunQueue((queue as unknown as { parts: QueueParts }).parts);
    await queue.recover();
    await ended(id);
    expect(tables.runs.counts(id).written).toBe(4);
    expect(readdirSync(join(folder, 'out'))).toHaveLength(4);
  });

  it('whose folder cannot be looked at after a restart waits, and the others go on', async () => {
    renderMs = 5_000;
    const bad = beginRun([1]);
    await inWork(1);
    await queue.close();
    db.prepare('UPDATE run_deliveries SET folder = ? WHERE run_id = ?').run(
      join(folder, 'x'.repeat(300)),
      bad,
    );
    renderMs = 10;
    queue = new RunQueue((queue as unknown as { parts: QueueParts }).parts);
    await queue.recover();
    expect(tables.runs.get(bad)).toMatchObject({ state: 'paused' });
    expect(tables.runs.get(bad)?.problem).toContain('too long');
    const good = beginRun([1, 1]);
    await ended(good);
    expect(tables.runs.get(good)?.state).toBe('done');
    // Still in the way, and still said; then it is back.
    const run = () => tables.runs.get(bad) ?? (null as never);
    await queue.resume(run());
    expect(run().state).toBe('paused');
    db.prepare('UPDATE run_deliveries SET folder = ? WHERE run_id = ?').run(
      join(folder, 'out'),
      bad,
    );
    await queue.resume(run());
    await ended(bad);
    expect(run()).toMatchObject({ state: 'done', problem: null });
  });

  describe('that waits for its folder after a restart', () => {
    let id: number;
    const run = () => tables.runs.get(id) ?? (null as never);
    const unplug = (): void => {
      db.prepare('UPDATE run_deliveries SET folder = ? WHERE run_id = ?').run(
        join(folder, 'x'.repeat(300)),
        id,
      );
    };
    const plugIn = (): void => {
      db.prepare('UPDATE run_deliveries SET folder = ? WHERE run_id = ?').run(
        join(folder, 'out'),
        id,
      );
    };

    beforeEach(async () => {
      renderMs = 5_000;
      id = beginRun([1, 1]);
      await inWork(2);
      await queue.close();
      unplug();
      renderMs = 10;
      queue = new RunQueue((queue as unknown as { parts: QueueParts }).parts);
      await queue.recover();
      expect(run().state).toBe('paused');
    });

    it('is not gone on with where it is cancelled while that is looked at', async () => {
      plugIn();
      const going = queue.resume(run());
      queue.cancel(run());
      await going;
      expect(run().state).toBe('cancelled');
      expect(tables.runs.counts(id).cancelled).toBe(2);
    });

    it('stays cancelled where the folder is still away', async () => {
      const going = queue.resume(run());
      queue.cancel(run());
      await going;
      expect(run().state).toBe('cancelled');
    });

    it('is looked at once, however often it is gone on with', async () => {
      plugIn();
      renderMs = 100;
      await Promise.all([queue.resume(run()), queue.resume(run()), queue.resume(run())]);
      await ended(id);
      expect(tables.runs.counts(id).written).toBe(2);
      expect(readdirSync(join(folder, 'out'))).toHaveLength(2);
    });

    it('is done where nothing was left to do', async () => {
      plugIn();
      for (const item of tables.items.interrupted(id)) {
        tables.items.finish(item.id, 'written', join(folder, 'out', item.sourceName), null);
      }
      await queue.resume(run());
      expect(run().state).toBe('done');
    });

    it('says what is in the way where failed ones are tried again', async () => {
      const [first] = tables.items.interrupted(id);
      tables.items.finish(first?.id ?? 0, 'failed', null, 'It was full.');
      await queue.retry(run());
      expect(run()).toMatchObject({ state: 'paused' });
      expect(run().problem).toContain('too long');
      plugIn();
      await queue.resume(run());
      await ended(id);
      expect(tables.runs.counts(id).written).toBe(2);
    });
  });
});
