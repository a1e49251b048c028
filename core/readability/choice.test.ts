import { describe, expect, it } from 'vitest';
import { presetRuleSchema, type PresetRule } from '../contract/preset.ts';
import { choosing, firstChoice, needsChoosing, type Choice, type Chosen } from './choice.ts';
import { classOf } from './measure.ts';

/** How well a mark reads, by anchor, tone and strength of the rescue. */
type Ground = (choice: Choice) => { share: number; contrast?: number } | null;

function chosen(
  rule: PresetRule,
  ground: Ground,
  inkLightness = 100,
): Chosen & { asked: Choice[] } {
  const asked: Choice[] = [];
  const policy = choosing(rule, () => inkLightness);
  let step = policy.next();
  while (!step.done) {
    asked.push(step.value);
    const found = ground(step.value);
    const { share = 0, contrast = 20 } = found ?? {};
    step = policy.next(found ? { class: classOf(share), share, contrast } : null);
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
