import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { presetRuleSchema, type Anchor, type PresetRule } from '../contract/preset.ts';
import {
  choosing,
  firstChoice,
  needsChoosing,
  quietSteps,
  type Choice,
  type Chosen,
} from './choice.ts';
import { classOf } from './measure.ts';

/** How well a mark reads, by anchor, tone and strength of the rescue. */
type Ground = (choice: Choice) => { share: number; contrast?: number; weakest?: number } | null;

function chosen(
  rule: PresetRule,
  ground: Ground,
  inkLightness = 100,
  calmAt: (anchor: Anchor) => number = () => 0,
): Chosen & { asked: Choice[] } {
  const asked: Choice[] = [];
  const policy = choosing(rule, () => inkLightness, calmAt);
  let step = policy.next();
  while (!step.done) {
    asked.push(step.value);
    const found = ground(step.value);
    const { share = 0, contrast = 20, weakest = share } = found ?? {};
    step = policy.next(found ? { class: classOf(share, weakest), share, contrast, weakest } : null);
  }
  return { ...step.value, asked };
}

const rule = (part: object): PresetRule => presetRuleSchema.parse(part);

describe('tone', () => {
  it('is the one with the higher share, then the higher contrast', () => {
    const auto = rule({});
    expect(chosen(auto, ({ tone }) => ({ share: tone === 'dark' ? 0.7 : 0.4 })).choice.tone).toBe(
      'dark',
    );
    const even = chosen(auto, ({ tone }) => ({ share: 1, contrast: tone === 'dark' ? 60 : 40 }));
    expect(even.choice.tone).toBe('dark');
    expect(chosen(auto, () => ({ share: 1 })).choice.tone).toBe('light');
  });

  it('is asked for once where it is fixed', () => {
    const fixed = rule({ tone: { tone: '#c9a25b' } });
    expect(chosen(fixed, () => ({ share: 0.1 })).asked).toHaveLength(1);
    expect(needsChoosing(fixed)).toBe(false);
    expect(needsChoosing(rule({}))).toBe(true);
  });
});

describe('anchor', () => {
  const three = rule({ tone: { tone: 'light' }, fallbacks: ['top', 'left', 'top'] });

  it('is the calmest of the others where its own is not clear, if that is', () => {
    const calmest = { ...three, fallback_order: 'calmest' } as const;
    const calm: Partial<Record<Anchor, number>> = { 'bottom-right': 1, top: 0.3, left: 0.8 };
    const calmAt = (anchor: Anchor): number => calm[anchor] ?? 0;
    const beside = ({ anchor }: Choice) => ({ share: anchor === 'bottom-right' ? 0.5 : 1 });
    expect(chosen(three, beside, 100, calmAt).choice.anchor).toBe('top');
    expect(chosen(calmest, beside, 100, calmAt).choice.anchor).toBe('left');
    // Calm, but not clear: the next calm one.
    const top = ({ anchor }: Choice) => ({ share: anchor === 'top' ? 1 : 0.5 });
    expect(chosen(calmest, top, 100, calmAt).choice.anchor).toBe('top');
    // As calm as each other: as they stand. And nobody looks while its own is clear.
    expect(chosen(calmest, beside, 100, () => 0.5).choice.anchor).toBe('top');
    const asked: Anchor[] = [];
    chosen(
      calmest,
      () => ({ share: 1 }),
      100,
      (anchor) => asked.push(anchor),
    );
    expect(asked).toEqual([]);
  });

  it('stays where it is clear', () => {
    const found = chosen(three, () => ({ share: 0.95 }));
    expect(found.choice.anchor).toBe('bottom-right');
    expect(found.asked).toHaveLength(1);
  });

  it('is the first fallback that is clear, not the best of them', () => {
    const shares: Partial<Record<string, number>> = { 'bottom-right': 0.2, top: 0.91, left: 1 };
    expect(chosen(three, ({ anchor }) => ({ share: shares[anchor] ?? 0 })).choice.anchor).toBe(
      'top',
    );
  });

  it('is the best where none is clear, each tried once', () => {
    const shares: Partial<Record<string, number>> = { 'bottom-right': 0.2, top: 0.5, left: 0.7 };
    const found = chosen(three, ({ anchor }) => ({ share: shares[anchor] ?? 0 }));
    expect(found.choice.anchor).toBe('left');
    expect(found.asked).toHaveLength(3);
  });

  it('takes a fallback where nothing of the mark lies on the photo at its own', () => {
    const found = chosen(three, ({ anchor }) => (anchor === 'top' ? { share: 0.3 } : null));
    expect(found.choice.anchor).toBe('top');
    expect(chosen(three, () => null)).toMatchObject({ choice: firstChoice(three), reading: null });
  });
});

describe('rescue', () => {
  const halo = rule({ tone: { tone: 'light' }, rescue: 'halo' });
  const grows: Ground = ({ rescue }) => ({ share: 0.4 + 0.8 * (rescue?.strength ?? 0) });

  it('is not there where the mark is clear', () => {
    expect(chosen(halo, () => ({ share: 0.9 })).choice.rescue).toBeNull();
  });

  it('is the weakest that makes it clear, and contrasts with the ink', () => {
    expect(chosen(halo, grows).choice.rescue).toEqual({
      ...{ kind: 'halo', strength: 0.65, colour: '#000000' },
    });
    expect(chosen(halo, grows, 10).choice.rescue?.colour).toBe('#ffffff');
  });

  it.each(Array.from({ length: 20 }, (_, step) => (step + 1) / 20))(
    'is found wherever the weakest lies: %d',
    (needed) => {
      const ground: Ground = ({ rescue }) => ({
        share: (rescue?.strength ?? 0) >= needed - 1e-9 ? 1 : 0.5,
      });
      expect(chosen(halo, ground).choice.rescue?.strength).toBeCloseTo(needed, 9);
    },
  );

  it('comes after the fallbacks, at the best of them', () => {
    const both = rule({ tone: { tone: 'light' }, fallbacks: ['top'], rescue: 'plate' });
    const ground: Ground = ({ anchor, rescue }) => ({
      share: rescue ? 1 : anchor === 'top' ? 0.6 : 0.3,
    });
    expect(chosen(both, ground).choice).toMatchObject({ anchor: 'top', rescue: { kind: 'plate' } });
  });

  it('is as strong as it can be where that still helps, and absent where it does not', () => {
    const some: Ground = ({ rescue }) => ({ share: rescue ? 0.7 : 0.2 });
    expect(chosen(halo, some).choice.rescue?.strength).toBe(1);
    expect(chosen(halo, () => ({ share: 0.2 })).choice.rescue).toBeNull();
  });
});

describe('a part of the mark that is lost', () => {
  it('sends it to a place where all of it reads', () => {
    const words = rule({ tone: { tone: 'light' }, fallbacks: ['top'] });
    const found = chosen(words, ({ anchor }) => ({
      ...{ share: 0.97, weakest: anchor === 'top' ? 0.85 : 0.4 },
    }));
    expect(found.choice.anchor).toBe('top');
  });

  it('makes a tone in which all of it reads better than one with more ink that does', () => {
    const found = chosen(rule({}), ({ tone }) =>
      tone === 'light' ? { share: 0.98, weakest: 0.5 } : { share: 0.93, weakest: 0.9 },
    );
    expect(found.choice.tone).toBe('dark');
  });
});

describe('a quiet mark', () => {
  const quiet = (part: object = {}): PresetRule =>
    rule({ tone: { tone: 'light' }, opacity: { rule: 'quiet', ...part } });

  it('has the steps from the least, and the most itself', () => {
    expect(quietSteps({ rule: 'quiet', least: 0.3, most: 0.5 })).toEqual([
      0.3, 0.35, 0.4, 0.45, 0.5,
    ]);
    expect(quietSteps({ rule: 'quiet', least: 0.3, most: 0.42 })).toEqual([0.3, 0.35, 0.4, 0.42]);
    expect(quietSteps({ rule: 'quiet', least: 0.6, most: 0.6 })).toEqual([0.6]);
  });

  it('is as low as a search through all steps finds, wherever it becomes clear', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 0, max: 19 }),
        fc.double({ min: 0, max: 1.1, noNaN: true }),
        (low, more, clearFrom) => {
          const least = low / 20;
          const most = Math.min(1, (low + more) / 20);
          const reads = ({ opacity }: Choice) => ({ share: opacity >= clearFrom ? 0.95 : 0.7 });
          const found = chosen(quiet({ least, most }), reads);
          const all = quietSteps({ rule: 'quiet', least, most });
          expect(found.choice.opacity).toBe(all.find((step) => step >= clearFrom) ?? most);
          expect(found.asked.length).toBeLessThanOrEqual(7);
        },
      ),
    );
  });

  it('is asked for twice where it is clear at the least, as on calm ground', () => {
    const { choice, asked } = chosen(quiet(), () => ({ share: 0.95 }));
    expect(choice.opacity).toBe(0.3);
    expect(asked.map(({ opacity }) => opacity)).toEqual([0.9, 0.3]);
  });

  it('chooses tone and place at the most, and is rescued only there', () => {
    const both = rule({
      ...{ opacity: { rule: 'quiet', least: 0.2, most: 0.8 }, rescue: 'halo' },
      fallbacks: ['top'],
    });
    const lost = chosen(both, ({ rescue }) => ({ share: rescue ? 0.92 : 0.3 }));
    expect(lost.choice).toMatchObject({ opacity: 0.8, rescue: { kind: 'halo' } });
    const clear = chosen(both, ({ anchor, opacity }) => ({
      share: anchor === 'top' && opacity > 0.31 ? 0.95 : 0.5,
    }));
    expect(clear.choice).toMatchObject({ anchor: 'top', opacity: 0.35, rescue: null });
    const places = clear.asked.filter(({ opacity }) => opacity < 0.8);
    expect(places.every(({ anchor }) => anchor === 'top')).toBe(true);
  });

  it('needs a look at the photo, and is at its most before that', () => {
    expect(needsChoosing(quiet())).toBe(true);
    expect(firstChoice(quiet()).opacity).toBe(0.9);
  });

  it('cannot be louder at the least than at the most', () => {
    expect(() => quiet({ least: 0.7, most: 0.5 })).toThrow(/least/);
    expect(() => quiet({ least: 0.01 })).toThrow();
  });
});
