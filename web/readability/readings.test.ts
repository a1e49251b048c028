import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { shallowRef } from 'vue';
import type { MarkView, PhotoView } from '#core/contract/http';
import type { ReadingsWish } from '#core/contract/readability';
import { noteAnswer, noteAway } from '../api/connection.ts';
import { fakeServer, Refusal, type Asked } from '../testing/fakeServer.ts';
import { useDraft } from '../preset/draft.ts';
import { useLibrary } from '../app/library.ts';
import { useReadings } from './readings.ts';

/** Measures of a batch while the server is away, fails, or cannot measure a photo. */

vi.mock('./useEstimates.ts', () => ({
  useEstimates: () => ({
    ...{ estimates: shallowRef(null), places: shallowRef(new Map()), lightsTaken: shallowRef(0) },
    ...{ take: () => Promise.resolve(), ask: () => Promise.resolve() },
    calm: () => Promise.resolve(null),
  }),
}));

const mark = {
  ...{ id: 1, name: 'M', version: 1, kind: 'svg', tokens: [], notes: [], retired: false },
  ...{ ink: { x: 0, y: 0, width: 3, height: 1 }, bleed: { x: 0, y: 0 }, usedBy: [] },
  ...{ origin: 'file', scanId: null, box: null, isPending: false },
} as MarkView;
const photo = (id: number, version = 1): PhotoView => ({
  ...{ id, name: `${id}.jpg`, origin: 'in-place', bytes: 1, format: 'jpeg', width: 3, height: 2 },
  ...{ bits: 8, profile: null, capturedAt: null, year: 2026, camera: null, lens: null },
  ...{ place: null, caption: null, artist: null },
  ...{ lightness: 50, version, note: null },
});
const choice = { anchor: 'top', tone: 'light', rescue: null, opacity: 0.85 };
const readability = {
  ...{ class: 'clear', share: 1, contrast: 40, bustle: 1, weakest: 1, weakestBox: null },
};
let problems: ReadonlySet<number>;

const read = (kind: string, more: object = {}) => ({
  ...{ choice, isEmpty: false, readability: { ...readability, class: kind } },
  ...more,
});

function measured({ body }: Asked) {
  return (body as ReadingsWish).photos.map(({ photoId }) => {
    const problem = problems.has(photoId) ? 'It could not be measured.' : null;
    return { photoId, marks: [{ choice, readability: problem ? null : readability }], problem };
  });
}

beforeEach(() => {
  vi.useFakeTimers();
  setActivePinia(createPinia());
  problems = new Set();
  useLibrary().marks = [mark];
  useDraft().open(null);
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const asked = (server: ReturnType<typeof fakeServer>): number[][] =>
  server
    .of('POST', '/readings')
    .map(({ body }) => (body as ReadingsWish).photos.map(({ photoId }) => photoId));

it('measures all photos when the hand rests, those in sight first, in portions', async () => {
  const server = fakeServer({ 'POST /readings': measured });
  const readings = useReadings();
  readings.setVisible([30]);
  readings.follow(
    Array.from({ length: 30 }, (_, index) => photo(index + 1)),
    null,
  );
  await vi.advanceTimersByTimeAsync(400);
  const portions = asked(server);
  expect(portions.map(({ length }) => length)).toEqual([24, 6]);
  expect(portions[0][0]).toBe(30);
  expect([readings.progress, readings.counts.clear]).toEqual([30, 30]);
});

it('goes on measuring after a failure, from where it was', async () => {
  const server = fakeServer({ 'POST /readings': new Refusal(500, 'internal', 'Oh.') });
  const readings = useReadings();
  readings.follow([photo(1), photo(2)], null);
  await vi.advanceTimersByTimeAsync(400);
  expect(readings.progress).toBe(0);
  server.set('POST /readings', measured);
  await vi.advanceTimersByTimeAsync(3_000);
  expect(readings.progress).toBe(2);
});

it('measures as soon as the server is back', async () => {
  const server = fakeServer({});
  server.set('POST /readings', server.isDown);
  const readings = useReadings();
  readings.follow([photo(1)], null);
  await vi.advanceTimersByTimeAsync(400);
  noteAway();
  server.set('POST /readings', measured);
  noteAnswer();
  await vi.advanceTimersByTimeAsync(10);
  expect(readings.progress).toBe(1);
});

it('asks again for what could not be measured, when something is measured the next time', async () => {
  const server = fakeServer({ 'POST /readings': measured });
  problems = new Set([2]);
  const readings = useReadings();
  readings.follow([photo(1), photo(2)], null);
  await vi.advanceTimersByTimeAsync(400);
  expect(readings.of(2)?.problem).toBe('It could not be measured.');
  problems = new Set();
  readings.follow([photo(1), photo(2), photo(3)], null);
  await vi.advanceTimersByTimeAsync(400);
  expect(asked(server).at(-1)).toEqual([2, 3]);
  expect(readings.of(2)?.problem).toBe(null);
});

it('measures a photo anew that was read again', async () => {
  const server = fakeServer({ 'POST /readings': measured });
  const readings = useReadings();
  readings.follow([photo(1), photo(2)], null);
  await vi.advanceTimersByTimeAsync(400);
  readings.follow([photo(1), photo(2, 2)], null);
  await vi.advanceTimersByTimeAsync(400);
  expect(asked(server).at(-1)).toEqual([2]);
});

it('lets the other marks count where one says nothing, and tells why', async () => {
  const note = 'It has nothing for {caption}, so a mark of nothing else is left out.';
  const empty = read('', { readability: null, isEmpty: true });
  const marksOf: Record<number, readonly object[]> = {
    1: [read('clear'), empty],
    2: [read('clear'), read('faint')],
    3: [read('clear'), read('', { readability: null })],
    4: [empty, empty],
  };
  fakeServer({
    'POST /readings': ({ body }: Asked) =>
      (body as ReadingsWish).photos.map(({ photoId }) => {
        const marks = marksOf[photoId];
        const wordsNote = marks.includes(empty) ? note : null;
        return { photoId, marks, wordsNote, lacksLetters: photoId === 2, problem: null };
      }),
  });
  const readings = useReadings();
  readings.follow([photo(1), photo(2), photo(3), photo(4)], null);
  await vi.advanceTimersByTimeAsync(400);
  expect(readings.classes).toEqual(['clear', 'faint', 'lost', 'lost']);
  expect([1, 2, 3, 4].map((id) => readings.classFor(id))).toEqual(readings.classes);
  expect(readings.shares).toEqual([1, 1, -1, -1]);
  expect(readings.besideOf(1).map((one) => one.class)).toEqual([null]);
  expect(readings.besideOf(3).map((one) => one.class)).toEqual(['lost']);
  expect([readings.wordsNoteOf(1), readings.wordsNoteOf(2)]).toEqual([note, null]);
  expect([1, 2].map((id) => readings.lacksLetters(id))).toEqual([false, true]);
  expect([readings.isLeftOut(1, 1), readings.isLeftOut(1, 0)]).toEqual([true, false]);
  // Where the marks go next changes nothing of their letters: a filter by them must not come and go.
  useDraft().change({ opacity: 0.3 });
  expect([1, 2].map((id) => readings.lacksLetters(id))).toEqual([false, true]);
});
