import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { z } from 'zod';
import { designSchema } from './design.ts';
import { sheetSchema } from './sheet.ts';
import { showSchema } from './show.ts';
import { deliveryFileSchema, deliveryRuleSchema } from './delivery.ts';
import { validate } from './explain.ts';
import { FILE_KINDS } from './fileKinds.ts';
import { fileJsonSchema } from './jsonSchema.ts';
import { presetFileSchema, presetRuleSchema } from './preset.ts';

const preset = { format: 'light-crest/preset', version: 1, name: 'Low right' };
const delivery = { format: 'light-crest/delivery', version: 1, name: 'Web gallery' };

function presetReason(part: object): string {
  const checked = validate(presetFileSchema, { ...preset, ...part });
  return checked.ok ? 'taken' : checked.reason;
}

function deliveryReason(part: object): string {
  const checked = validate(deliveryFileSchema, { ...delivery, ...part });
  return checked.ok ? 'taken' : checked.reason;
}

describe('defaults', () => {
  it('fills in every key of a preset that is left out', () => {
    expect(presetFileSchema.parse(preset)).toEqual({
      ...preset,
      tone: { rule: 'auto', among: ['light', 'dark'] },
      size: { basis: 'long-side', value: 14 },
      anchor: 'bottom-right',
      fallbacks: [],
      fallback_order: 'listed',
      inset: { unit: 'percent', x: 3, y: 3 },
      offset: { x: 0, y: 0 },
      rotation: 0,
      opacity: 0.85,
      blend: 'normal',
      repeat: null,
      rescue: 'none',
      upright: null,
    });
    expect(presetFileSchema.parse({ ...preset, opacity: { rule: 'quiet' } }).opacity).toEqual({
      ...{ rule: 'quiet', least: 0.3, most: 0.9 },
    });
  });

  it('fills in nested keys of a delivery', () => {
    expect(deliveryFileSchema.parse({ ...delivery, resize: { px: 1080 }, file: {} })).toEqual({
      ...delivery,
      kind: 'files',
      sheet: sheetSchema.parse({}),
      show: showSchema.parse({}),
      mark: true,
      resize: { rule: 'long-side', px: 1080, px2: null, enlarge: false },
      file: {
        ...{ type: 'jpeg', quality: 88, chroma: '4:4:4', max_bytes: null },
        ...{ progressive: false, compression: 'lzw' },
      },
      colour: 'srgb',
      name_pattern: '{name}-web',
      existing: 'number',
      metadata: {
        ...{ keep: 'all', location: 'drop', artist: null, copyright: null, usage: null },
        rights_url: null,
      },
      dates: 'photo',
      sharpen: 'none',
      dpi: null,
    });
  });

  it.each([
    [{ file: { type: 'png' } }, 'file.type: expected jpeg, since the kind is "sheet"'],
    [{ resize: null, file: { quality: 'untouched' } }, 'file.quality'],
    [{ sheet: { paper: 'a7' } }, 'sheet.paper'],
    [{ sheet: { caption: { pattern: '{nme}' } } }, 'sheet.caption.pattern'],
    [{ sheet: { grid: { columns: 0 } } }, 'sheet.grid.columns'],
  ])('of a delivery to paper refuses %j', (part, where) => {
    const checked = validate(deliveryFileSchema, { ...delivery, kind: 'sheet', ...part });
    expect(checked.ok ? '' : checked.reason).toContain(where);
  });

  it('keeps the size where resize is null', () => {
    expect(deliveryFileSchema.parse({ ...delivery, resize: null }).resize).toBeNull();
  });
});

const lettering = { text: 'Tern', font: { family: 'montserrat', weight: 500 } };
const DESIGN = designSchema.parse({
  layers: [{ id: 'w', kind: 'lettering', name: 'Words', lettering }],
  finishes: [],
});

/** With another value at the end of a way through it; each number names the key to go by. */
function spoiled(value: unknown, [turn, ...way]: readonly number[], by: unknown): unknown {
  if (turn === undefined || typeof value !== 'object' || value === null) return by;
  const keys = Object.keys(value);
  if (keys.length === 0) return by;
  const key = keys[turn % keys.length];
  const part = spoiled((value as Record<string, unknown>)[key], way, by);
  return Array.isArray(value)
    ? value.map((one, at) => (String(at) === key ? part : one))
    : { ...value, [key]: part };
}

describe('sentences', () => {
  it.each([
    [{ opactiy: 1 }, 'unknown key "opactiy". Did you mean "opacity"? Allowed: format, version'],
    [{ size: { bassis: 'width' } }, 'size: unknown key "bassis". Did you mean "basis"?'],
    [{ size: { basis: 'widht' } }, 'size.basis: expected one of width, height, long-side'],
    [{ size: { value: 0 } }, 'size.value: expected a number above 0, found 0.'],
    [{ size: { value: 1001 } }, 'size.value: expected a number at most 1000, found 1001.'],
    [{ inset: { x: 101 } }, 'inset.x: expected a number at most 100, found 101.'],
    [{ opacity: 1.5 }, 'opacity: expected a number at most 1, found 1.5.'],
    [{ opacity: 'half' }, 'opacity: expected a number or an object, found "half".'],
    [{ opacity: { rule: 'quite' } }, 'opacity.rule: expected "quiet", found "quite".'],
    [
      { opacity: { rule: 'quiet', least: 0.8, most: 0.5 } },
      'opacity.least: expected a number at most 0.5, found 0.8.',
    ],
    [{ upright: { anchr: 'top' } }, 'upright: unknown key "anchr". Did you mean "anchor"?'],
    [{ rotation: 361 }, 'rotation: expected a number at most 360, found 361.'],
    [
      { tone: { tone: 'red' } },
      'tone.tone: expected light, dark, original or a colour as #rrggbb, found "red".',
    ],
    [{ tone: { rule: 'aotu' } }, 'tone.rule: expected one of auto, fixed, found "aotu".'],
    [{ tone: { rule: 'auto', amogn: [] } }, 'tone: unknown key "amogn". Did you mean "among"?'],
    [{ tone: { rule: 'auto', among: [] } }, 'tone.among: expected at least 1 entries'],
    [{ tone: { rule: 'fixed' } }, 'tone.tone: expected text, found nothing.'],
    [{ tone: { rule: 'auto', among: ['red'] } }, 'tone.among.0: expected light, dark, original'],
    [{ rescue: 'glow' }, 'rescue: expected one of none, halo, plate, found "glow".'],
    [{ fallbacks: ['tpo'] }, 'fallbacks.0: expected one of top-left, top'],
    [{ name: '' }, 'name: expected text of at least 1 characters, found "".'],
    [{ version: 2 }, 'version: expected 1, found 2.'],
    [{ repeat: { gapX: -1 } }, 'repeat.gapX: expected a number at least 0, found -1.'],
  ])('preset %j', (part, sentence) => {
    expect(presetReason(part)).toContain(sentence);
  });

  it.each([
    [
      { name_pattern: '{nmae}' },
      'name_pattern: expected a name pattern with the tokens {name}, {number}',
    ],
    [{ name_pattern: 'a/b' }, 'without a path separator'],
    [{ file: { quality: 0 } }, 'file.quality: expected a number at least 1, found 0.'],
    [
      { file: { quality: 88.5 } },
      'file.quality: expected a whole number or "untouched", found 88.5.',
    ],
    [{ resize: { px: 12.5 } }, 'resize.px: expected a whole number of pixels, found 12.5.'],
    [
      { resize: { rule: 'megapixels', px: 400 } },
      'resize.px: expected a number at most 300, found 400.',
    ],
    [{ resize: { px2: 10 } }, 'resize.px2: expected null'],
    [
      { metadata: { loction: 'drop' } },
      'metadata: unknown key "loction". Did you mean "location"?',
    ],
    [{ colour: 'p3' }, 'colour: expected one of srgb, photo, found "p3".'],
    [{ file: { quality: 'untouched' } }, 'resize: expected null, since the quality is "untouched"'],
    [
      { resize: null, file: { quality: 'untouched', type: 'png' } },
      'file.type: expected jpeg, since the quality is "untouched", found "png".',
    ],
    [
      { resize: null, file: { quality: 'untouched', max_bytes: 90_000 } },
      'file.max_bytes: expected null, since the quality is "untouched", found 90000.',
    ],
  ])('delivery %j', (part, sentence) => {
    expect(deliveryReason(part)).toContain(sentence);
  });

  it.each([
    ['text', 'layers.0.kind: expected one of lettering, artwork, pen, shape, found "text".'],
    [undefined, 'layers.0.kind: expected one of lettering, artwork, pen, shape, found nothing.'],
  ])('layer of the kind %j', (kind, sentence) => {
    const checked = validate(designSchema, { layers: [{ id: 'a', kind, name: 'A' }] });
    expect(checked.ok ? '' : checked.reason).toBe(sentence);
  });

  it.each([
    ['preset', presetRuleSchema, presetRuleSchema.parse({})],
    ['delivery', deliveryRuleSchema, deliveryRuleSchema.parse({})],
    ['design', designSchema, DESIGN],
  ])('are found for whatever stands in a %s', (_name, schema, right) => {
    // A part of something right is anything at all.
    const wrong = fc
      .tuple(fc.array(fc.nat(20), { minLength: 1, maxLength: 4 }), fc.jsonValue())
      .map(([way, value]) => spoiled(right, way, value));
    fc.assert(
      fc.property(wrong, (value) => {
        const checked = validate(schema as z.ZodType, value);
        if (!checked.ok) expect(checked.reason).toMatch(/^.+: .+\.$/);
      }),
    );
  });

  it('says what was expected where there is no object at all', () => {
    const checked = validate(presetFileSchema, [1]);
    expect(checked.ok ? '' : checked.reason).toContain('the whole: expected an object, found [1].');
  });
});

describe('published schemas', () => {
  it.each(FILE_KINDS)('docs/schema/%s.schema.json is what the code says', (kind) => {
    const path = new URL(`../../docs/schema/${kind}.schema.json`, import.meta.url);
    expect(JSON.parse(readFileSync(path, 'utf8'))).toEqual(
      JSON.parse(JSON.stringify(fileJsonSchema(kind))),
    );
  });
});
