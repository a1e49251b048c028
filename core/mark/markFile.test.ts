import { describe, expect, it } from 'vitest';
import { DEFAULT_LIFT } from '../contract/lift.ts';
import type { MarkModel } from '../contract/mark.ts';
import { filledSvg } from '../ink/liftArtwork.ts';
import { markModelOf, withMarkModel } from './markFile.ts';
import { sharpUpTo } from './sharpness.ts';
import { sanitiseSvg } from './svg/sanitise.ts';
import { pictureSvg, tonedSvg } from './tonedSvg.ts';

const plain = filledSvg({ width: 10, height: 5 }, 'M0 0L10 0L10 5Z');
const model: MarkModel = {
  format: 'light-crest/mark',
  version: 1,
  parts: {},
  name: 'Marlow & <Quillon> "Bay"',
  origin: { kind: 'paper', scanId: 7, page: 1, settings: { ...DEFAULT_LIFT, weight: 0.4 } },
};

describe('a mark’s file', () => {
  it('gives back the model that was put in', () => {
    const found = markModelOf(withMarkModel(plain, model));
    expect(found).toMatchObject({ ok: true, value: model });
  });

  it('stays a plain drawing: clean of the model it is what it was', () => {
    const clean = sanitiseSvg(withMarkModel(plain, model));
    const before = sanitiseSvg(plain);
    expect(clean.ok && clean.value.svg).toBe(before.ok && before.value.svg);
  });

  it('of another program holds none', () => {
    expect(markModelOf('<svg><metadata><rdf/></metadata></svg>')).toMatchObject({ value: null });
  });

  it.each([
    ['cut short', (text: string) => text.replace('"origin"', '"orig')],
    ['of an unknown kind', (text: string) => text.replace('"paper"', '"papyrus"')],
    ['of a later version', (text: string) => text.replace('"version":1', '"version":9')],
  ])('that is %s says so', (_, damage) => {
    const found = markModelOf(damage(withMarkModel(plain, model)));
    expect(found.ok).toBe(false);
  });
});

describe('tonedSvg', () => {
  it('colours one black path directly', () => {
    expect(tonedSvg(plain, '#c9a25b')).toContain('<path fill="#c9a25b"');
    expect(tonedSvg(withMarkModel(plain, model), 'light')).toContain('<path fill="#ffffff"');
  });

  it('filters anything else, alpha kept', () => {
    const toned = tonedSvg(
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"><rect fill="red"/></svg>',
      'light',
    );
    expect(toned).toContain('0 0 0 0 1 0 0 0 0 1 0 0 0 0 1 0 0 0 1 0');
    expect(toned).toMatch(/<g filter="url\(#light-crest-tone\)"><rect fill="red"\/><\/g><\/svg>$/);
    expect(sanitiseSvg(toned).ok).toBe(true);
  });

  it('leaves the original alone', () => {
    expect(tonedSvg(plain, 'original')).toBe(plain);
  });
});

it('wraps pixels so that they can come back as artwork', () => {
  expect(sanitiseSvg(pictureSvg('iVBORw0KGgo=', 4, 3))).toMatchObject({ ok: true });
});

describe('sharpUpTo', () => {
  it('speaks of small pixels only', () => {
    expect(sharpUpTo('svg', { width: 10, height: 10 })).toBeNull();
    expect(sharpUpTo('png', { width: 1_500, height: 300 })).toBeNull();
    expect(sharpUpTo('png', { width: 480, height: 320 })).toEqual({
      widthPx: 480,
      photoLongSidePx: 3_000,
      share: 0.16,
    });
  });
});
