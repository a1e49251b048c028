import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deliveryRuleSchema, FILE_TYPES } from '../contract/delivery.ts';
import { planPasses } from './planPasses.ts';

const photo = { size: { width: 6_000, height: 4_000 }, bits: 8, hasAlpha: false, hasProfile: true };

function rule(px: number | null, type: (typeof FILE_TYPES)[number] = 'jpeg', enlarge = false) {
  const resize = px === null ? null : { rule: 'long-side', px, enlarge };
  return deliveryRuleSchema.parse({ resize, file: { type } });
}

describe('passes', () => {
  it('make all sizes of one decode, each of the last', () => {
    const [pass, ...more] = planPasses(photo, [rule(1_200), rule(null), rule(2_048)]);
    expect(more).toEqual([]);
    expect(pass.frame).toEqual(photo.size);
    expect(pass.outputs).toMatchObject([
      { delivery: 1, from: null },
      { delivery: 2, frame: { width: 2_048, height: 1_365 }, from: 0 },
      { delivery: 0, frame: { width: 1_200, height: 800 }, from: 1 },
    ]);
  });

  it('take sizes that are near each other from the largest, not in a row', () => {
    const [pass] = planPasses(photo, [rule(2_048), rule(2_000), rule(1_900), rule(1_900)]);
    expect(pass.outputs.map(({ from }) => from)).toEqual([null, 0, 0, 2]);
  });

  it('are apart for depths, where the photo has more than 8 bits', () => {
    const rules = [rule(2_048), rule(2_048, 'tiff'), rule(null, 'webp'), rule(1_000, 'png')];
    expect(planPasses(photo, rules)).toHaveLength(1);
    const passes = planPasses({ ...photo, bits: 16 }, rules);
    expect(passes.map(({ depth }) => depth)).toEqual([8, 16]);
    expect(passes.map(({ outputs }) => outputs.map(({ delivery }) => delivery))).toEqual([
      [2, 0],
      [1, 3],
    ]);
  });

  it('are apart for colour spaces, where the photo has one of its own', () => {
    const rules = [rule(2_048), { ...rule(1_000), colour: 'photo' as const }, rule(null)];
    expect(planPasses(photo, rules).map(({ space }) => space)).toEqual(['srgb', 'photo']);
    const [pass, ...more] = planPasses({ ...photo, hasProfile: false }, rules);
    expect(more).toEqual([]);
    expect(pass.space).toBe('srgb');
  });

  it('have one for each output that is made of the file itself', () => {
    const untouched = deliveryRuleSchema.parse({ resize: null, file: { quality: 'untouched' } });
    const passes = planPasses(photo, [untouched, rule(2_048), untouched, rule(null)]);
    expect(passes.map(({ isUntouched, outputs }) => [isUntouched, outputs.length])).toEqual([
      [true, 1],
      [false, 2],
      [true, 1],
    ]);
  });

  it('are apart for what is laid on white', () => {
    const passes = planPasses({ ...photo, hasAlpha: true }, [rule(null), rule(null, 'png')]);
    expect(passes.map(({ isFlat }) => isFlat)).toEqual([true, false]);
  });

  it('make nothing of a photo that was enlarged', () => {
    const passes = planPasses(photo, [rule(9_000, 'jpeg', true), rule(2_048), rule(null)]);
    expect(passes.map(({ outputs }) => outputs.map(({ delivery }) => delivery))).toEqual([
      [0],
      [2, 1],
    ]);
  });

  it('hold each delivery once, none made of a smaller one', () => {
    const one = fc.record({
      px: fc.option(fc.integer({ min: 40, max: 9_000 })),
      type: fc.constantFrom(...FILE_TYPES),
      enlarge: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 9 }), fc.boolean(), (wishes, hasAlpha) => {
        const rules = wishes.map(({ px, type, enlarge }) => rule(px, type, enlarge));
        const passes = planPasses({ ...photo, hasAlpha, bits: 16 }, rules);
        const found = passes.flatMap(({ outputs }) => outputs.map(({ delivery }) => delivery));
        expect(found.sort((a, b) => a - b)).toEqual(rules.map((_, index) => index));
        for (const { frame, outputs } of passes) {
          expect(outputs[0]).toMatchObject({ frame, from: null });
          outputs.slice(1).forEach(({ frame: own, from }, index) => {
            expect(from).toBeLessThanOrEqual(index);
            expect(outputs[from ?? 0].frame.width).toBeGreaterThanOrEqual(own.width);
            expect(outputs[from ?? 0].frame.height).toBeGreaterThanOrEqual(own.height);
          });
        }
      }),
    );
  });
});
