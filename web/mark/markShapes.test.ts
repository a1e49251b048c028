import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import type { MarkView } from '#core/contract/http';
import { exampleWords } from '#core/lettering/photoWords';
import { noteAnswer, noteAway } from '../api/connection.ts';
import { fakeServer, Refusal, type Asked } from '../testing/fakeServer.ts';
import { useMarkShapes, wordsOfAny } from './markShapes.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

const mark = {
  ...{ id: 4, name: 'M', version: 2, kind: 'svg', tokens: ['name', 'number'], notes: [] },
  ...{ ink: { x: 0, y: 0, width: 3, height: 1 }, bleed: { x: 0, y: 0 }, usedBy: [] },
  ...{ origin: 'design', scanId: null, box: null, isPending: false, retired: false },
} as MarkView;
const words = (number: number) => ({ ...exampleWords(2026), number: String(number) });

/** As wide as the words that are asked for are many. */
function shapes({ body }: Asked) {
  return (body as { words: string[][] }).words.map(([, number]) => ({
    ...{ ink: { x: 0, y: 0, width: Number(number), height: 1 }, bleed: { x: 0, y: 0 } },
  }));
}
const widthOf = (number: number): number => useMarkShapes().of(mark, words(number)).ink.width;

beforeEach(() => setActivePinia(createPinia()));
afterEach(() => vi.unstubAllGlobals());

it('asks for the words a mark takes, each text once, in portions', async () => {
  const server = fakeServer({ 'POST /marks/4/shapes': shapes });
  const store = useMarkShapes();
  const all = Array.from({ length: 450 }, (_, at) => words(at + 1));
  store.want(mark, all);
  store.want(mark, all);
  expect(widthOf(7)).toBe(3);
  await eventually(() => expect(widthOf(450)).toBe(450));
  const asked = server
    .of('POST', '/marks/4/shapes')
    .map(({ body }) => body as { words: unknown[] });
  expect(asked.map((body) => body.words.length)).toEqual([200, 200, 50]);
  expect(asked[0]).toMatchObject({
    version: 2,
    words: [
      ['NC26_0043', '1'],
      ['NC26_0043', '2'],
    ].concat(Array.from({ length: 198 }, (_, at) => ['NC26_0043', String(at + 3)])),
  });
});

it('asks nothing for a mark that says nothing of the photo', () => {
  const server = fakeServer({});
  const plain = { ...mark, tokens: [] };
  useMarkShapes().want(plain, [words(1)]);
  expect(useMarkShapes().of(plain, words(1))).toBe(plain);
  expect(server.of('POST', '/marks/4/shapes')).toEqual([]);
});

it('asks again when the server is back', async () => {
  const server = fakeServer({ 'POST /marks/4/shapes': new Refusal(500, 'internal', 'Oh.') });
  useMarkShapes().want(mark, [words(9)]);
  await eventually(() => expect(server.of('POST', '/marks/4/shapes')).toHaveLength(1));
  // The refusal has arrived.
  await new Promise((done) => setTimeout(done, 0));
  expect(widthOf(9)).toBe(3);
  server.set('POST /marks/4/shapes', shapes);
  noteAway();
  noteAnswer();
  await eventually(() => expect(widthOf(9)).toBe(9));
});

it('lets a version that is gone keep nobody waiting', async () => {
  vi.useFakeTimers();
  const server = fakeServer({
    'POST /marks/4/shapes': new Refusal(404, 'not-found', 'Version 2 of M is not there.'),
    'POST /marks/5/shapes': shapes,
  });
  const other = { ...mark, id: 5 };
  useMarkShapes().want(mark, [words(9)]);
  useMarkShapes().want(other, [words(8)]);
  await vi.advanceTimersByTimeAsync(12_000);
  expect(useMarkShapes().of(other, words(8)).ink.width).toBe(8);
  expect(server.of('POST', '/marks/4/shapes')).toHaveLength(1);
  vi.useRealTimers();
});

it('lets the first photo stand for all that has any of the words', () => {
  const captioned = { ...mark, tokens: ['caption', 'place'] } as MarkView;
  const bare = { ...words(1), caption: '', place: '' };
  const told = { ...bare, place: 'Quillon Bay' };
  expect(wordsOfAny(captioned, [bare, told, words(3)])).toEqual(['', 'Quillon Bay']);
  expect(wordsOfAny(captioned, [bare])).toBeNull();
  expect(wordsOfAny(captioned, [])).toBeNull();
});
