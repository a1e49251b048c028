import { designSchema, type Design, type Layer } from '../contract/design.ts';
import { BASE_UNITS } from '../contract/finish.ts';
import { unionBox } from '../path/pathBox.ts';
import { centreOf, type Box } from '../placement/geometry.ts';
import type { DrawContext } from './context.ts';
import { frameBox, layerFrame, withFrame } from './frame.ts';

/** Ways to begin a mark from one's own name. */
export const ARRANGEMENTS = [
  { key: 'line', label: 'Over a line' },
  { key: 'crest', label: 'Beside a crest' },
  { key: 'stacked', label: 'Stacked' },
  { key: 'arc', label: 'On an arc' },
] as const;
export type ArrangementKey = (typeof ARRANGEMENTS)[number]['key'];

export interface Beginning {
  /** The photographer's name, or the studio's. */
  readonly name: string;
  /** Artwork that may stand beside it: a part, with its name in the library. */
  readonly crest: { readonly part: string; readonly name: string } | null;
  readonly newId: () => string;
}

/** Space between what stands beside each other, units. */
const GAP = 60;

/** A design of about `BASE_UNITS` width to begin from; everything in it can be changed. */
export function arranged(key: ArrangementKey, beginning: Beginning, context: DrawContext): Design {
  const layers = layersOf(key, beginning, context);
  return fitted(designSchema.parse({ layers, finishes: [] }), context);
}

function layersOf(key: ArrangementKey, beginning: Beginning, context: DrawContext): Layer[] {
  const { name, newId } = beginning;
  const words = (text: string, lettering: object, place: object = {}, label = text): Layer =>
    designSchema.parse({
      layers: [
        { kind: 'lettering', id: newId(), name: label, place, lettering: { text, ...lettering } },
      ],
    }).layers[0];
  const hand = { font: { family: 'great-vibes' } };
  const capitals = { letterCase: 'capitals', letterSpacing: 24 };
  const sober = { font: { family: 'montserrat', weight: 500 } };
  switch (key) {
    case 'line': {
      const line = { form: 'tapered', weight: 2.4, gap: 34, length: 96 };
      const year = words('© {year}', { ...sober, letterSpacing: 30 }, small(0, 190), 'Year');
      return [words(name, { ...hand, line }, { scaleX: 2, scaleY: 2 }), year];
    }
    case 'crest': {
      const left = { align: 'left' };
      const serif = { font: { family: 'cormorant-garamond', weight: 600 }, ...left };
      const above = words(name, serif, { scaleX: 1.6, scaleY: 1.6 });
      const beneath = words(
        '© {year}',
        { ...sober, ...capitals, ...left },
        { y: 78, scaleX: 0.4, scaleY: 0.4 },
        'Year',
      );
      return beside(crestLayer(beginning), [above, beneath], context);
    }
    case 'stacked': {
      const [first, rest] = inTwo(name);
      const upper = words(first, { font: { family: 'cinzel' }, letterSpacing: 12 }, big(0, 0));
      const lower = words(rest || '© {year}', { ...sober, ...capitals }, small(0, 96));
      const rule = shape(newId(), 'Line', 'line', 240, 3, 0, 40);
      return [upper, rule, lower];
    }
    case 'arc': {
      const ring = shape(newId(), 'Ring', 'ring', 300, 300, 0, 0);
      const bent = words(
        name,
        { font: { family: 'cinzel' }, ...capitals, letterSpacing: 16, arcDeg: 210 },
        { y: -190, scaleX: 0.9, scaleY: 0.9 },
      );
      const serif = { font: { family: 'cormorant-garamond', weight: 600 }, letterSpacing: 4 };
      const middle = words(
        initials(name),
        serif,
        { y: 34, scaleX: 1.05, scaleY: 1.05 },
        'Initials',
      );
      return [ring, bent, middle];
    }
    default:
      throw new Error(`Unknown arrangement ${key satisfies never}`);
  }
}

const small = (x: number, y: number): object => ({ x, y, scaleX: 0.42, scaleY: 0.42 });
const big = (x: number, y: number): object => ({ x, y, scaleX: 1.7, scaleY: 1.7 });

function shape(
  id: string,
  name: string,
  form: 'line' | 'ring',
  width: number,
  height: number,
  x: number,
  y: number,
): Layer {
  const measures = { form, width, height, weight: 5 };
  return designSchema.parse({
    layers: [{ kind: 'shape', id, name, place: { x, y }, shape: measures }],
  }).layers[0];
}

/** The artwork of the library, or a ring with initials where there is none. */
function crestLayer({ crest, newId }: Beginning): Layer {
  if (!crest) return shape(newId(), 'Ring', 'ring', 150, 150, 0, 0);
  const layer = { kind: 'artwork', id: newId(), name: crest.name, part: crest.part };
  return designSchema.parse({ layers: [layer] }).layers[0];
}

/** A crest as tall as the words and a little more, to the left of them. */
function beside(crest: Layer, words: readonly Layer[], context: DrawContext): Layer[] {
  const field = boxOf(words, context);
  const frame = layerFrame(crest, context);
  if (!field || !frame) return [...words];
  const height = field.height * 1.25;
  const width = (frame.width / frame.height) * height;
  const centre = { x: field.x - GAP - width / 2, y: centreOf(field).y };
  return [withFrame(crest, { centre, width, height, turn: 0 }, context), ...words];
}

/** Everything moved and sized so that the design is `BASE_UNITS` long, about 0, 0. */
export function fitted(design: Design, context: DrawContext): Design {
  const field = boxOf(design.layers, context);
  if (!field) return design;
  const scale = BASE_UNITS / Math.max(field.width, field.height);
  const middle = centreOf(field);
  const layers = design.layers.map((layer) => {
    const frame = layerFrame(layer, context);
    if (!frame) return layer;
    const { centre, width, height, turn } = frame;
    const to = { x: (centre.x - middle.x) * scale, y: (centre.y - middle.y) * scale };
    const next = { centre: to, width: width * scale, height: height * scale, turn };
    const sized = withFrame(layer, next, context);
    if (sized.kind !== 'shape') return sized;
    const { shape: form } = sized;
    const { weight, corner } = form;
    return { ...sized, shape: { ...form, weight: weight * scale, corner: corner * scale } };
  });
  return { ...design, layers };
}

function boxOf(layers: readonly Layer[], context: DrawContext): Box | null {
  return unionBox(
    layers.map((layer) => {
      const frame = layerFrame(layer, context);
      return frame && frameBox(frame);
    }),
  );
}

/** A name on two lines: its last word below. */
function inTwo(name: string): [string, string] {
  const words = name.trim().split(/\s+/);
  if (words.length < 2) return [name, ''];
  return [words.slice(0, -1).join(' '), words[words.length - 1]];
}

function initials(name: string): string {
  return name
    .trim()
    .split(/\s+/)
    .map((word) => word.charAt(0).toUpperCase())
    .slice(0, 3)
    .join('');
}
