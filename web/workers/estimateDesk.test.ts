import { expect, it, vi } from 'vitest';
import { presetRuleSchema } from '#core/contract/preset';
import { ESTIMATE, ESTIMATE_NUMBERS } from '#core/readability/batchEstimate';
import { PLACES } from '#core/readability/calmness';
import { BYTES_PER_LIGHTNESS, packedLightMaps } from '#core/readability/lightMap';
import { EstimateDesk, type DeskQuestion, type DeskSource } from './estimateDesk.ts';

/** Photos of one lightness each: their ids. */
function source(): { [Name in keyof DeskSource]: ReturnType<typeof vi.fn<DeskSource[Name]>> } {
  const flat = (lightness: number) => {
    const cells = new Uint8Array(64 * 43 * 2);
    for (let at = 0; at < cells.length; at += 2) cells[at] = lightness * BYTES_PER_LIGHTNESS;
    return { width: 64, height: 43, cells };
  };
  const values = [-0.25, 0, 0.5, 0, 0, 0.25, 0, 0.5, 0, 0];
  return {
    lightMaps: vi.fn((ids) =>
      Promise.resolve(packedLightMaps(ids.map((id) => ({ id, map: flat(id) })))),
    ),
    ink: vi.fn(() => Promise.resolve({ values, colour: [9, 9, 9] as const })),
  };
}

const photo = (id: number, version = 1) => ({ id, version, width: 3_000, height: 2_000 });
const question = (part: Partial<DeskQuestion> = {}): DeskQuestion => ({
  ...{ resize: null, markId: 1, own: [] },
  marks: [{ id: 1, version: 1, aspect: 3, aspects: null, words: null }],
  rule: presetRuleSchema.parse({ tone: { tone: 'light' } }),
  ...part,
});
const share = (numbers: Float32Array, index: number): number =>
  numbers[index * ESTIMATE_NUMBERS + ESTIMATE.share];

it('answers for all photos in their order, each by its own light', async () => {
  const desk = new EstimateDesk(source());
  await desk.take([photo(5), photo(97), photo(40)]);
  const numbers = await desk.answer(question());
  expect(numbers).toHaveLength(3 * ESTIMATE_NUMBERS);
  expect([0, 1, 2].map((index) => share(numbers, index))).toEqual([1, 0, 1]);
});

it('asks for each light map and each ink once, and forgets photos that left', async () => {
  const from = source();
  const desk = new EstimateDesk(from);
  await desk.take([photo(5), photo(97)]);
  await desk.take([photo(97), photo(8)]);
  await desk.answer(question());
  await desk.answer(question());
  expect(from.lightMaps.mock.calls.map(([ids]) => ids)).toEqual([[5, 97], [8]]);
  expect(from.ink).toHaveBeenCalledTimes(1);
  await desk.take([photo(5)]);
  expect(from.lightMaps).toHaveBeenLastCalledWith([5]);
  // Read again, it has another light.
  await desk.take([photo(5, 2)]);
  expect(from.lightMaps).toHaveBeenCalledTimes(4);
});

it('answers photos with something of their own by that', async () => {
  const desk = new EstimateDesk(source());
  await desk.take([photo(5), photo(97)]);
  const rule = presetRuleSchema.parse({ tone: { tone: 'dark' } });
  const own = [{ photoId: 97, markId: 1, rule, adjustment: {} }];
  const numbers = await desk.answer(question({ own }));
  expect([share(numbers, 0), share(numbers, 1)]).toEqual([1, 1]);
});

it('asks for the ink with the words of one photo, and gives each the shape of its own', async () => {
  const from = source();
  const desk = new EstimateDesk(from);
  void desk.take([photo(5), photo(6)]);
  const early = await desk.answer(question({ marks: [] }));
  expect([...early].every((value, at) => at % ESTIMATE_NUMBERS !== 0 || Number.isNaN(value))).toBe(
    true,
  );
  const mark = { id: 1, version: 1, aspect: 3, aspects: [3, 30], words: ['2025'] };
  const numbers = await desk.answer(question({ marks: [mark] }));
  expect(from.ink.mock.calls).toEqual([[mark]]);
  const crop = (index: number): number => numbers[index * ESTIMATE_NUMBERS + ESTIMATE.cleanCrop];
  // A mark ten times as long for its height leaves more of the frame free of it.
  expect(crop(1)).toBeGreaterThan(crop(0));
});

it('tells how calm each place is, as large as the mark is there', async () => {
  const desk = new EstimateDesk(source());
  void desk.take([photo(5), photo(6)]);
  expect(desk.calm(question({ marks: [] })).every(Number.isNaN)).toBe(true);
  await desk.take([photo(5), photo(6)]);
  const numbers = desk.calm(question());
  // Both are even all over.
  expect(numbers).toHaveLength(2 * PLACES);
  expect([...numbers].every((calm) => calm === 1)).toBe(true);
});
