import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import type { BatchView, ImportView, PhotoView, RunView } from '#core/contract/http';
import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import { presetRuleSchema } from '#core/contract/preset';
import { settingsSchema } from '#core/contract/settings';
import { api, ApiError, isTemporary } from '../api/client.ts';
import { isAway } from '../api/connection.ts';
import * as upload from '../api/upload.ts';
import { FakeEventSource } from '../testing/fakeEventSource.ts';
import { fakeServer, later, Refusal } from '../testing/fakeServer.ts';
import { useAdjustmentSync } from './adjustmentSync.ts';
import { useBatches } from './batches.ts';
import { asked } from '../ui/ask.ts';
import { useDraft } from '../preset/draft.ts';
import { useLibrary } from '../app/library.ts';
import { useRuns } from '../run/runs.ts';
import { useSaving } from '../app/saving.ts';
import { useUploads } from './uploads.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

/** The page while the server is away, answers late, or is asked twice; and beside another window. */

const batch = (id: number): BatchView => ({
  ...{ id, name: `Batch ${id}`, presetId: null, deliveryIds: [], openedAt: '', placing: null },
  ...{ photoCount: 1, coverId: null, pins: {}, beside: { at: 0, marks: [] } },
});
const photo = (id: number, part: Partial<PhotoView> = {}): PhotoView => ({
  ...{ id, name: `${id}.jpg`, origin: 'in-place', bytes: 1, format: 'jpeg', width: 3, height: 2 },
  ...{ bits: 8, profile: null, capturedAt: null, year: 2026, camera: null, lens: null },
  ...{ place: null, caption: null, artist: null },
  ...{ lightness: 50, version: 1, note: null },
  ...part,
});
const opened = (id: number, photos: PhotoView[], reading: ImportView | null = null) => ({
  ...{ batch: batch(id), photos, adjustments: [], reading, lastReading: null },
});
const run = (id: number, part: Partial<RunView> = {}): RunView => ({
  ...{ id, batchId: 1, batchName: 'b', deliveries: [], presetName: 'p' },
  ...{ folder: '/out', fileType: 'jpeg', state: 'running', problem: null, turn: id, createdAt: '' },
  ...{ finishedAt: null, total: 9, written: 0, skipped: 0, failed: 0, cancelled: 0 },
  ...{
    bytesBefore: 0,
    bytesAfter: 0,
    coverItemId: null,
    remainingMs: null,
    told: 1,
    documents: [],
  },
  ...part,
});
const reading = (part: Partial<ImportView>): ImportView => ({
  ...{ batchId: 1, folder: '/f', total: 9, done: 0, added: 0, already: 0, refused: [] },
  ...{ refusedCount: 0, state: 'reading', problem: null },
  ...part,
});

beforeEach(() => setActivePinia(createPinia()));
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
  vi.useRealTimers();
});

describe('requests', () => {
  it('that make something keep their key until they are answered', async () => {
    const server = fakeServer({ 'POST /runs': { id: 1 } });
    server.set('POST /runs', server.isDown);
    await expect(api.post('/runs', { batchId: 1 })).rejects.toThrow('does not answer');
    expect(isAway.value).toBe(true);
    server.set('POST /runs', { id: 1 });
    await api.post('/runs', { batchId: 1 });
    expect(isAway.value).toBe(false);
    await api.post('/runs', { batchId: 1 });
    await api.post('/runs', { batchId: 2 });
    const keys = server.asked.map(({ headers }) => headers['Idempotency-Key']);
    expect(keys[0]).toBe(keys[1]);
    expect(new Set(keys).size).toBe(3);
  });

  it('clicked twice have one key', async () => {
    const answer = later<object>();
    const server = fakeServer({ 'POST /runs': () => answer.promise });
    const both = [api.post('/runs', { batchId: 1 }), api.post('/runs', { batchId: 1 })];
    answer.give({ id: 1 });
    await Promise.all(both);
    const keys = server.asked.map(({ headers }) => headers['Idempotency-Key']);
    expect(keys[0]).toBe(keys[1]);
  });

  it.each([
    [new Refusal(422, 'unusable', 'No.'), false],
    [new Refusal(500, 'internal', 'Oh.'), true],
    [new Refusal(507, 'storage', 'Full.'), true],
  ])('tell a refusal from what may pass: %j', async (refusal, isPassing) => {
    fakeServer({ 'GET /x': refusal });
    const error = await api.get('/x').catch((thrown: unknown) => thrown);
    expect(error).toBeInstanceOf(ApiError);
    expect(isTemporary(error)).toBe(isPassing);
  });
});

describe('the line to the server', () => {
  it('is opened again where it was refused, and who shows state asks anew', async () => {
    vi.useFakeTimers();
    const server = fakeServer({ 'GET /runs': [] });
    await useRuns().load();
    const first = FakeEventSource.last;
    first.onopen?.();
    first.readyState = FakeEventSource.CLOSED;
    first.onerror?.();
    expect(isAway.value).toBe(true);
    await vi.advanceTimersByTimeAsync(2_500);
    expect(FakeEventSource.last).not.toBe(first);
    const before = server.of('GET', '/runs').length;
    FakeEventSource.last.onopen?.();
    await vi.advanceTimersByTimeAsync(1);
    expect(server.of('GET', '/runs').length).toBeGreaterThan(before);
    expect(isAway.value).toBe(false);
  });
});

describe('a batch', () => {
  it('whose answer comes after another was opened changes nothing', async () => {
    const slow = later<object>();
    fakeServer({
      'GET /batches/1': () => slow.promise,
      'GET /batches/2': opened(2, [photo(20)]),
      'POST *': undefined,
    });
    const batches = useBatches();
    const first = batches.openBatch(1);
    await batches.openBatch(2);
    slow.give(opened(1, [photo(10)]));
    await first;
    expect(batches.open?.id).toBe(2);
    expect(batches.photos.map(({ id }) => id)).toEqual([20]);
  });

  it('shows an end of its reading that was missed while the line was down', async () => {
    const server = fakeServer({
      'GET /batches/1': opened(1, [], reading({ done: 3 })),
      'POST *': undefined,
    });
    const batches = useBatches();
    await batches.openBatch(1);
    expect(batches.reading?.state).toBe('reading');
    server.set('GET /batches/1', opened(1, [photo(1), photo(2)]));
    FakeEventSource.last.onopen?.();
    FakeEventSource.last.onopen?.();
    await eventually(() => expect(batches.photos).toHaveLength(2));
    expect(batches.reading).toBe(null);
  });

  it('that changes while it is being opened is asked for again', async () => {
    const slow = later<object>();
    const server = fakeServer({ 'GET /batches/1': () => slow.promise, 'POST *': undefined });
    const batches = useBatches();
    const opening = batches.openBatch(1);
    FakeEventSource.last.tell('photos', { batchId: 1 });
    server.set('GET /batches/1', opened(1, [photo(7, { version: 2 })]));
    slow.give(opened(1, [photo(7)]));
    await opening;
    await eventually(() => expect(batches.photos[0].version).toBe(2));
  });

  it('whose answers take their time rests four times as long before it is asked for again', async () => {
    const TAKES_MS = 60;
    const askedMs: number[] = [];
    fakeServer({
      'GET /batches/77': async () => {
        askedMs.push(performance.now());
        await new Promise((done) => setTimeout(done, TAKES_MS));
        return opened(77, [photo(1)]);
      },
    });
    const batches = useBatches();
    await batches.openBatch(77);
    askedMs.length = 0;
    for (let times = 0; times < 3; times++) {
      FakeEventSource.last.tell('photos', { batchId: 77 });
    }
    await eventually(() => expect(askedMs).toHaveLength(2));
    expect(askedMs[1] - askedMs[0]).toBeGreaterThan(4 * TAKES_MS);
  });

  it('follows what another window does to it, and photos that were read again', async () => {
    const server = fakeServer({ 'GET /batches/1': opened(1, [photo(7)]), 'POST *': undefined });
    const batches = useBatches();
    await batches.openBatch(1);
    server.set('GET /batches/1', {
      ...opened(1, [photo(7, { version: 2, note: 'It has changed.' })]),
      adjustments: [{ photoId: 7, adjustment: { opacity: 0.3 } }],
    });
    FakeEventSource.last.tell('photos', { batchId: 1 });
    await eventually(() => expect(batches.photos[0].version).toBe(2));
    expect(useDraft().adjustments.get(7)).toEqual({ opacity: 0.3 });
    const asked = server.asked.length;
    FakeEventSource.last.tell('changed', { what: 'batches', id: 9, tab: 'another' });
    await nextTick();
    expect(server.asked).toHaveLength(asked);
  });
});

describe('runs', () => {
  it('are not put back by an answer that comes after a newer event', async () => {
    const slow = later<RunView>();
    fakeServer({ 'GET /runs': [run(1, { told: 1 })], 'POST /runs/1/pause': () => slow.promise });
    const runs = useRuns();
    await runs.load();
    const pausing = runs.steer(1, 'pause');
    FakeEventSource.last.tell('run', run(1, { told: 5, state: 'done', written: 9 }));
    slow.give(run(1, { told: 3, state: 'paused' }));
    await pausing;
    expect(runs.runOf(1)?.state).toBe('done');
    await runs.load();
    expect(runs.runOf(1)?.state).toBe('done');
  });

  it('tell what is in their way, and are gone when another window removed them', async () => {
    fakeServer({ 'GET /runs': [run(1), run(2)] });
    const runs = useRuns();
    await runs.load();
    FakeEventSource.last.tell('run', run(1, { told: 9, state: 'paused', problem: 'It is full.' }));
    expect(runs.runOf(1)?.problem).toBe('It is full.');
    FakeEventSource.last.tell('run-gone', { id: 2 });
    expect(runs.runOf(2)).toBe(null);
    expect(runs.underWay.map(({ id }) => id)).toEqual([1]);
  });
});

describe('uploads', () => {
  const files = ['a.jpg', 'b.jpg', 'c.jpg'].map((name) => new File(['x'], name));
  const sent: string[] = [];
  let outcomes: Record<string, unknown[]>;
  beforeEach(() => {
    vi.useFakeTimers();
    fakeServer({ 'GET *': [] });
    sent.length = 0;
    outcomes = {};
    vi.spyOn(upload, 'uploadPhoto').mockImplementation(async (_, file) => {
      sent.push(file.name);
      const outcome = outcomes[file.name]?.shift();
      if (outcome instanceof Error) throw outcome;
      return { photo: photo(1), isAlready: outcome === 'already' };
    });
  });

  it('wait while the server is away, and go on by themselves', async () => {
    const away = new ApiError('not-reached', 'It does not answer.', {}, 0);
    outcomes = { 'b.jpg': [away, away] };
    const uploads = useUploads();
    const done = uploads.send(1, files);
    await vi.advanceTimersByTimeAsync(10);
    expect([uploads.added, uploads.held, uploads.isBusy]).toEqual([2, 1, true]);
    await vi.advanceTimersByTimeAsync(5_000);
    await done;
    expect([uploads.added, uploads.refused.length, uploads.isBusy]).toEqual([3, 0, false]);
    expect(sent.filter((name) => name === 'b.jpg')).toHaveLength(3);
  });

  it('list what is refused, a full disk too, and send it once more when asked', async () => {
    outcomes = {
      'a.jpg': [new ApiError('unusable', 'a.jpg is no photo.', {}, 422)],
      'b.jpg': [new ApiError('storage', 'The disk is full.', {}, 507), 'already'],
    };
    const uploads = useUploads();
    await uploads.send(1, files);
    expect(uploads.refused.map(({ reason }) => reason)).toEqual([
      'a.jpg is no photo.',
      'The disk is full.',
    ]);
    await uploads.retry();
    expect([uploads.added, uploads.already, uploads.refused.length]).toEqual([2, 1, 0]);
    expect(sent).toEqual(['a.jpg', 'b.jpg', 'c.jpg', 'a.jpg', 'b.jpg']);
  });

  it('can be cancelled while they wait for the server', async () => {
    outcomes = { 'b.jpg': Array(99).fill(new ApiError('not-reached', 'Away.', {}, 0)) };
    const uploads = useUploads();
    const done = uploads.send(1, files);
    await vi.advanceTimersByTimeAsync(10);
    uploads.cancel();
    await done;
    expect(uploads.items.map(({ state }) => state)).toEqual(['added', 'cancelled', 'added']);
    uploads.clear();
    expect(uploads.items).toEqual([]);
  });
});

describe('the library', () => {
  const settings = { ...settingsSchema.parse({}), configured: [], version: 3 };
  const delivery = (part: object = {}) => ({
    ...{ id: 1, name: 'Web', presetId: null, rule: DEFAULT_DELIVERY, folder: null },
    ...{ favourite: true, version: 4 },
    ...part,
  });
  const preset = (part: object = {}) => ({
    ...{ id: 1, name: 'P', markId: 1, rule: presetRuleSchema.parse({}), updatedAt: '' },
    ...{ favourite: false, uses: 0, usedAt: null, version: 2, usedBy: [] },
    ...part,
  });
  const mark = {
    ...{ id: 1, name: 'M', version: 1, kind: 'svg', tokens: [], notes: [], retired: false },
    ...{ ink: { x: 0, y: 0, width: 3, height: 1 }, bleed: { x: 0, y: 0 }, usedBy: [] },
    ...{ origin: 'file', scanId: null, box: null },
  };
  const answers = () => ({
    'GET /marks': [mark],
    'GET /presets': [preset()],
    'GET /deliveries': [delivery()],
    'GET /settings': settings,
  });

  it('shows a delivery as it was changed, and saves the last of it from its version', async () => {
    vi.useFakeTimers();
    const server = fakeServer({ ...answers(), 'PUT /deliveries/1': delivery({ version: 5 }) });
    const library = useLibrary();
    await library.load();
    for (const quality of [8, 88]) {
      const file = { ...DEFAULT_DELIVERY.file, quality };
      library.changeDelivery(1, { rule: { ...DEFAULT_DELIVERY, file } });
    }
    library.changeDelivery(1, { name: 'Web, large' });
    expect(library.deliveryOf(1)).toMatchObject({ name: 'Web, large' });
    await vi.advanceTimersByTimeAsync(1_000);
    const puts = server.of('PUT', '/deliveries/1');
    expect(puts).toHaveLength(1);
    expect(puts[0].body).toMatchObject({ name: 'Web, large', baseVersion: 4 });
    expect(JSON.stringify(puts[0].body)).toContain('"quality":88');
  });

  it('keeps what is not saved yet over what another window tells', async () => {
    vi.useFakeTimers();
    const server = fakeServer(answers());
    server.set('PUT /deliveries/1', server.isDown);
    const library = useLibrary();
    await library.load();
    library.changeDelivery(1, { name: 'Mine' });
    await vi.advanceTimersByTimeAsync(600);
    server.set('GET /deliveries', [delivery({ name: 'Theirs', version: 9 })]);
    FakeEventSource.last.tell('changed', { what: 'deliveries', id: 1, tab: 'another' });
    await vi.advanceTimersByTimeAsync(10);
    expect(library.deliveryOf(1)?.name).toBe('Mine');
    expect(useSaving().waiting).toBe(1);
  });

  it('keeps or gives up settings that another window changed', async () => {
    const server = fakeServer({
      ...answers(),
      'PUT /settings': (asked: { body: unknown }) => {
        const { version } = asked.body as { version: number };
        if (version === 8) return { ...settings, surround: 'black', version: 9 };
        return new Refusal(409, 'changed', 'Settings was changed.', { version: '8' });
      },
    });
    const library = useLibrary();
    const saving = useSaving();
    await library.load();
    library.changeSettings({ surround: 'black' });
    await eventually(() => {
      asked.value?.give({ index: 1, text: '' });
      expect(saving.waiting).toBe(0);
    });
    expect(server.of('PUT', '/settings').map(({ body }) => body)).toMatchObject([
      { version: 3 },
      { surround: 'black', version: 8 },
    ]);
    // It has version 9 by now, which this server does not take either.
    server.set('GET /settings', { ...settings, surround: 'paper', version: 8 });
    library.changeSettings({ surround: 'grey' });
    await eventually(() => {
      asked.value?.give({ index: 0, text: '' });
      expect(library.settings.surround).toBe('paper');
    });
  });

  it('changes settings at once, from the version they have', async () => {
    const server = fakeServer({ ...answers(), 'PUT /settings': { ...settings, version: 4 } });
    const library = useLibrary();
    await library.load();
    library.changeSettings({ surround: 'black' });
    expect(library.settings.surround).toBe('black');
    expect(await useSaving().flush()).toBe(true);
    expect(server.of('PUT', '/settings')[0].body).toMatchObject({ surround: 'black', version: 3 });
    await library.saveSettings({ name: 'Ines' });
    expect(server.of('PUT', '/settings')[1].body).toMatchObject({ name: 'Ines', version: 4 });
  });

  it('puts presets in order and stars them at once, and takes it back where that is refused', async () => {
    const server = fakeServer({
      ...answers(),
      'GET /presets': [preset(), preset({ id: 2, name: 'Q' })],
      'PUT /presets-order': undefined,
      'PATCH /presets/2': new Refusal(404, 'not-found', 'That preset is not there any more.'),
    });
    const library = useLibrary();
    await library.load();
    library.orderPresets([2, 1]);
    library.favourPreset(2, true);
    expect(library.presets.map(({ id, favourite }) => [id, favourite])).toEqual([
      [2, true],
      [1, false],
    ]);
    await useSaving().flush();
    expect(server.of('PUT', '/presets-order')[0].body).toEqual({ ids: [2, 1] });
    await eventually(() => expect(library.presetOf(2)?.favourite).toBe(false));
  });

  describe('and a preset on the bench', () => {
    async function begin(extra: object = {}) {
      const server = fakeServer({
        ...answers(),
        'GET /presets': [preset(), preset({ id: 2 })],
        ...extra,
      });
      await useLibrary().load();
      const draft = useDraft();
      draft.open(1);
      return { server, draft };
    }

    it('stays changed when the view is left and come back to, with its undo', async () => {
      const { draft } = await begin();
      draft.change({ opacity: 0.4 });
      draft.open(1);
      expect([draft.isDirty, draft.rule.opacity]).toEqual([true, 0.4]);
      draft.undo();
      expect(draft.isDirty).toBe(false);
    });

    it('that was changed, left, and changed again comes back as it was last', async () => {
      const { draft } = await begin();
      draft.change({ opacity: 0.4 });
      draft.open(2);
      draft.open(1);
      draft.change({ opacity: 0.6 });
      draft.open(2);
      draft.open(1);
      expect(draft.rule.opacity).toBe(0.6);
      draft.putBack();
      draft.open(2);
      draft.open(1);
      expect(draft.isDirty).toBe(false);
    });

    it('is still changed after the page was loaded anew', async () => {
      const { draft } = await begin();
      draft.change({ opacity: 0.4 });
      await nextTick();
      setActivePinia(createPinia());
      const again = (await begin()).draft;
      expect([again.isDirty, again.rule.opacity]).toEqual([true, 0.4]);
      again.putBack();
      await nextTick();
      setActivePinia(createPinia());
      expect((await begin()).draft.isDirty).toBe(false);
    });

    it('follows what another window saved, unless it was changed here; then it says so', async () => {
      const { server, draft } = await begin();
      const theirs = preset({ version: 3, rule: presetRuleSchema.parse({ opacity: 0.2 }) });
      server.set('GET /presets', [theirs, preset({ id: 2 })]);
      FakeEventSource.last.tell('changed', { what: 'presets', id: 1, tab: 'another' });
      await eventually(() => expect(draft.rule.opacity).toBe(0.2));
      expect(draft.isDirty).toBe(false);
      draft.change({ opacity: 0.9 });
      server.set('GET /presets', [{ ...theirs, version: 4, name: 'R' }, preset({ id: 2 })]);
      FakeEventSource.last.tell('changed', { what: 'presets', id: 1, tab: 'another' });
      await eventually(() => expect(draft.name).toBe('R'));
      expect([draft.rule.opacity, draft.isOutdated]).toEqual([0.9, true]);
    });

    it('is saved from the version it was changed from', async () => {
      const { server, draft } = await begin({ 'PUT /presets/1': preset({ version: 3 }) });
      draft.change({ opacity: 0.4 });
      expect(await draft.save()).toBe(true);
      expect(server.of('PUT', '/presets/1')[0].body).toMatchObject({ baseVersion: 2 });
    });
  });

  it('begins a new preset with the mark that was added last, not the last by name', async () => {
    fakeServer({ ...answers(), 'GET /marks': [{ ...mark, id: 9, name: 'A' }, mark] });
    await useLibrary().load();
    useDraft().open(null);
    expect(useDraft().baseMark?.id).toBe(9);
  });
});

it('what is adjusted while a batch is left is sent, whatever is opened next', async () => {
  const server = fakeServer({
    'GET /batches/1': opened(1, [photo(7)]),
    'GET /batches/2': opened(2, [photo(8)]),
    'POST *': undefined,
    'PUT /batches/1/adjustments': undefined,
  });
  const batches = useBatches();
  await batches.openBatch(1);
  useDraft().adjust([7], { rotation: 3 });
  const leaving = useAdjustmentSync().leave();
  await batches.openBatch(2);
  await leaving;
  expect(server.of('PUT', '/batches/1/adjustments')[0].body).toEqual({
    changes: [{ photoId: 7, adjustment: { rotation: 3 } }],
  });
});
