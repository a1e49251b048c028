import { describe, expect, it } from 'vitest';
import { context, font } from '#tests/helpers/faces';
import { designSchema, type Design, type Part } from '../contract/design.ts';
import { BASE_UNITS, defaultFinish, unitsOf, type Finish } from '../contract/finish.ts';
import { sanitiseSvg } from '../mark/svg/sanitise.ts';
import { finishColour, layerColour } from './colours.ts';
import { drawDesign } from './draw.ts';
import { markToSvg } from './markToSvg.ts';
import { finishedBoxes, measureDesign } from './measure.ts';
import { missingSigns } from './missingSigns.ts';
import { designTokens } from './designTokens.ts';

type Given = Record<string, unknown>;

const design = (layers: Given[], finishes: Finish[] = []): Design =>
  designSchema.parse({
    layers: layers.map((layer, index) => ({ id: `l${index}`, ...layer })),
    finishes,
  });

const box = (part: Given = {}, shape: Given = {}): Given => ({
  ...{ kind: 'shape', shape: { form: 'box', width: 200, height: 100, ...shape } },
  ...part,
});

const words = (text: string, part: Given = {}): Given => ({
  ...{ kind: 'lettering', lettering: { text, font: font('allura') } },
  ...part,
});

const PART: Part = {
  kind: 'svg',
  natural: { x: 0, y: 0, width: 40, height: 20 },
  ink: { x: 10, y: 0, width: 20, height: 20 },
  contour: 'M10 0L30 0L30 20L10 20Z',
  svg: '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20" width="40" height="20"><rect x="10" width="20" height="20" fill="#c00"/></svg>',
};

const boxes = (given: Design) => {
  const measured = measureDesign(given, context({ art: PART }));
  if (!measured) throw new Error('nothing visible');
  return measured;
};

const svgOf = (given: Design, tone = 'original'): string => {
  const drawn = markToSvg(given, tone, context({ art: PART }));
  if (!drawn.ok) throw new Error(drawn.reason);
  return drawn.value.svg;
};

describe('the ink box of a design', () => {
  it('is that of its shapes, wherever they lie', () => {
    const given = design([box({ place: { x: 100, y: 50 } }), box({ place: { x: 400, y: 50 } })]);
    expect(boxes(given).ink).toEqual({ x: 0, y: 0, width: 500, height: 100 });
  });

  it('counts outlines and plates, but nothing soft', () => {
    const bare = boxes(design([box()])).ink;
    const outline = { ...defaultFinish('outline'), width: 1 };
    const outlined = boxes(design([box({ finishes: [outline] })])).ink;
    expect(outlined.width).toBeCloseTo(bare.width + 2 * unitsOf(1));
    const centred = { ...outline, position: 'centred' as const };
    expect(boxes(design([box({ finishes: [centred] })])).ink.width).toBeCloseTo(
      bare.width + unitsOf(1),
    );
    const plate = { ...defaultFinish('plate'), padding: 2 };
    expect(boxes(design([box({ finishes: [plate] })])).ink.height).toBeCloseTo(
      bare.height + 2 * unitsOf(2),
    );
    const soft = [defaultFinish('shadow'), defaultFinish('glow')];
    const softened = boxes(design([box({ finishes: soft })]));
    expect(softened.ink).toEqual(bare);
    expect(softened.reach.width).toBeGreaterThan(bare.width + 20);
  });

  it('is measured with the finishes of the whole mark, too', () => {
    const outline = { ...defaultFinish('outline'), width: 1 };
    const given = design([box(), box({ place: { x: 300 } })], [outline]);
    expect(boxes(given).ink).toEqual({ x: -110, y: -60, width: 520, height: 120 });
  });

  it('turns and sizes what it measures', () => {
    const given = design([box({ place: { turn: 90, scaleX: 2, scaleY: 1 } })]);
    const { ink } = boxes(given);
    expect(ink.width).toBeCloseTo(100);
    expect(ink.height).toBeCloseTo(400);
  });

  it('leaves out hidden layers, and padding in artwork', () => {
    const given = design([box({ hidden: true }), { kind: 'artwork', part: 'art' }]);
    expect(boxes(given).ink).toEqual({ x: -10, y: -10, width: 20, height: 20 });
    expect(measureDesign(design([box({ hidden: true })]), context())).toBeNull();
    expect(measureDesign(design([words('  ')]), context())).toBeNull();
  });

  it('follows the year in words', () => {
    const given = design([words('{year}')]);
    expect(designTokens(given)).toEqual(['year']);
    const wide = measureDesign(given, context({}, 2_000))?.ink.width;
    expect(wide).not.toBe(measureDesign(given, context({}, 1_111))?.ink.width);
  });

  it('casts a shadow the way it says', () => {
    const shadow = { ...defaultFinish('shadow'), distance: 4, softness: 0, angle: 90 };
    const { reach } = finishedBoxes([shadow], { x: 0, y: 0, width: 100, height: 100 });
    expect(reach).toEqual({ x: 0, y: 0, width: 100, height: 140 });
    expect(BASE_UNITS).toBe(1_000);
  });
});

describe('colours', () => {
  const [letters] = design([words('a')]).layers;
  const [art] = design([{ kind: 'artwork', part: 'art' }]).layers;

  it.each([
    ['light', '#ffffff'],
    ['dark', '#000000'],
    ['#c9a25b', '#c9a25b'],
    ['original', '#000000'],
  ])('in the tone %s letters are %s', (tone, colour) => {
    expect(layerColour(letters, null, tone)).toBe(colour);
  });

  it('are kept by layers that take no part in tones, and by artwork of its own colours', () => {
    const brass = { ...letters, colour: '#c9a25b' };
    expect(layerColour(brass, null, 'original')).toBe('#c9a25b');
    expect(layerColour(brass, null, 'light')).toBe('#ffffff');
    expect(layerColour({ ...brass, toned: false }, null, 'light')).toBe('#c9a25b');
    expect(layerColour(art, PART, 'original')).toBeNull();
    expect(layerColour(art, PART, 'dark')).toBe('#000000');
  });

  it.each([
    ['light', '#ffffff', '#000000'],
    ['dark', '#000000', '#ffffff'],
    ['#1a2b3c', '#1a2b3c', '#ffffff'],
    ['#f2d8a0', '#f2d8a0', '#000000'],
    ['original', '#f2d8a0', '#000000'],
  ])('contrast with the tone %s', (tone, ink, wanted) => {
    expect(finishColour('contrast', ink, tone)).toBe(wanted);
    expect(finishColour('ink', ink, tone)).toBe(ink);
    expect(finishColour('#123456', ink, tone)).toBe('#123456');
  });
});

describe('the SVG of a design', () => {
  const all = design(
    [
      words('Quillon {year}', {
        finishes: (['outline', 'glow', 'shadow', 'bevel', 'fill', 'plate'] as const).map(
          defaultFinish,
        ),
      }),
      { kind: 'artwork', part: 'art', place: { x: 50, y: 90 }, finishes: [defaultFinish('bevel')] },
      box({ place: { x: 300 }, opacity: 0.5 }),
    ],
    [defaultFinish('shadow'), { ...defaultFinish('plate'), shape: 'cloud' }],
  );

  it('holds neither text nor fonts nor anything outside, and passes as a mark file', () => {
    for (const tone of ['original', 'light', '#c9a25b']) {
      const svg = svgOf(all, tone);
      expect(svg).not.toMatch(/<text|font-family|https?:(?!\/\/www\.w3\.org)/);
      const clean = sanitiseSvg(svg);
      expect(clean.ok && clean.value.dropped).toEqual([]);
      expect(clean.ok && clean.value.textFonts).toEqual([]);
    }
  });

  it('gives each id once', () => {
    const ids = [...svgOf(all).matchAll(/ id="([^"]+)"/g)].map(([, id]) => id);
    expect(ids.length).toBeGreaterThan(2);
    expect(new Set(ids).size).toBe(ids.length);
  });

  it('draws layers in their order', () => {
    const svg = svgOf(
      design([box({ colour: '#111111' }), box({ colour: '#222222' }), box({ colour: '#333333' })]),
    );
    const order = ['#111111', '#222222', '#333333'].map((colour) => svg.indexOf(colour));
    expect(order).toEqual([...order].sort((a, b) => a - b));
  });

  it('strokes outlines with round joins, twice as wide where half lies under the ink', () => {
    const outline = { ...defaultFinish('outline'), width: 1 };
    expect(svgOf(design([box({ finishes: [outline] })]))).toContain(
      'stroke-width="20" stroke-linejoin="round"',
    );
    const centred = { ...outline, position: 'centred' as const };
    expect(svgOf(design([box({ finishes: [centred] })]))).toContain('stroke-width="10"');
  });

  it('keeps what lies beneath see-through ink out of it', () => {
    const finishes = [defaultFinish('outline'), { ...defaultFinish('fill'), opacity: 0 }];
    expect(svgOf(design([box({ finishes })]))).toContain('<mask');
    expect(svgOf(design([box({ finishes: finishes.slice(0, 1) })]))).not.toContain('<mask');
  });

  it('makes no picture anew for a layer that was only moved', () => {
    const [layer] = design([box({ finishes: [defaultFinish('shadow')] })]).layers;
    const [here] = drawDesign({ layers: [layer], finishes: [] }, 'light', context());
    const place = { ...layer.place, x: 77 };
    const [there] = drawDesign({ layers: [{ ...layer, place }], finishes: [] }, 'light', context());
    expect(there.svg).toBe(here.svg);
    expect(there.x).toBe(77);
    const turned = { ...layer, place: { ...place, turn: 10 } };
    const [other] = drawDesign({ layers: [turned], finishes: [] }, 'light', context());
    expect(other.svg).not.toBe(here.svg);
  });

  it('draws what lies round the layers in the hand by itself, the same wherever they are', () => {
    const given = design([box(), box({ place: { x: 300 } })], [defaultFinish('shadow')]);
    const [one, other] = given.layers;
    const held = new Set([other.id]);
    const drawn = drawDesign(given, 'light', context(), held);
    expect(drawn.map(({ id, held: is }) => [id, is])).toEqual([
      ['under-still', false],
      ['under-held', true],
      ['l0', false],
      ['l1', true],
    ]);
    const moved = { ...other, place: { ...other.place, y: 55 } };
    const next = drawDesign({ ...given, layers: [one, moved] }, 'light', context(), held);
    expect(next.map(({ svg }) => svg)).toEqual(drawn.map(({ svg }) => svg));
    expect(next[1].y).toBe(55);
  });

  it('knows the signs of a photo that its fonts lack, of what is shown alone', () => {
    const says = { ...context(), words: { ...context().words, name: 'Bøye 港の港' } };
    const named = words('{name} & {year}');
    expect(missingSigns(design([named]), says)).toEqual(['港', 'の']);
    expect(missingSigns(design([{ ...named, hidden: true }]), says)).toEqual([]);
    expect(missingSigns(design([named, words('の')]), says)).toEqual(['港', 'の']);
    expect(missingSigns(design([words('Ines')]), says)).toEqual([]);
  });

  it('says when there is nothing to see', () => {
    const drawn = markToSvg(design([]), 'light', context());
    expect(!drawn.ok && drawn.reason).toContain('only empty layers');
  });

  it('draws kept outlines where a font is not at hand', () => {
    const missing = { family: 'own-7', weight: 400, italic: false };
    const lettering = { text: 'Ines', font: missing, kept: 'M0 0L30 0L30 -40Z' };
    expect(svgOf(design([{ kind: 'lettering', lettering }]))).toContain('M0 0L30 0L30 -40Z');
  });

  it('recolours artwork of several colours through a filter of its own', () => {
    const given = design([{ kind: 'artwork', part: 'art' }]);
    expect(svgOf(given)).not.toContain('<filter');
    expect(svgOf(given, '#ff0000')).toContain('values="0 0 0 0 1 0 0 0 0 0 0 0 0 0 0 0 0 0 1 0"');
  });
});

describe('the schema of a design', () => {
  it.each([
    [{ layers: [box(), box()].map((layer) => ({ ...layer, id: 'same' })) }, 'a different id'],
    [
      { layers: [{ ...box(), id: 'a', finishes: [{ kind: 'glow' }, { kind: 'glow' }] }] },
      'each finish once',
    ],
  ])('refuses what cannot be', (given, reason) => {
    const parsed = designSchema.safeParse(given);
    expect(parsed.success).toBe(false);
    expect(JSON.stringify(parsed.error?.issues)).toContain(reason);
  });
});
