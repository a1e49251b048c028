import { designSchema, type Design, type Layer } from '#core/contract/design';

/** The composed marks of the scenario: what a photographer would finish them to. */

/** Artwork of other marks, by what it is used as. */
export interface DemoArtwork {
  readonly signature: Layer;
  readonly crest: Layer;
  readonly initials: Layer;
}

interface DemoDesign {
  readonly key: 'signed' | 'lockup' | 'seal' | 'number';
  readonly name: string;
  readonly layers: (artwork: DemoArtwork) => object[];
  readonly finishes: readonly object[];
}

const SANS = { family: 'montserrat', weight: 500 };
const SERIF = { family: 'cormorant-garamond', weight: 600 };
const STONE = { family: 'cinzel', weight: 700 };

const sized = (layer: Layer, x: number, y: number, scale: number): object => ({
  ...layer,
  place: {
    ...layer.place,
    ...{ x, y, scaleX: layer.place.scaleX * scale, scaleY: layer.place.scaleY * scale },
  },
});

/** Dark round light ink and light round dark: it carries over any photo. */
const LIFTED = [
  { kind: 'shadow', distance: 0.35, angle: 60, softness: 1.1, strength: 0.5 },
  { kind: 'glow', radius: 2.2, strength: 0.12, opacity: 0.38 },
];

export const DESIGNS: readonly DemoDesign[] = [
  {
    key: 'signed',
    name: 'Marlow signature with year',
    layers: ({ signature }) => [
      sized(signature, 0, 0, 1),
      {
        ...{ kind: 'lettering', id: 'line', name: 'Line and year' },
        place: { x: 60, y: 284, scaleX: 0.46, scaleY: 0.46 },
        lettering: {
          ...{ text: '© {year}', font: SANS, letterSpacing: 34 },
          line: { where: 'above', form: 'tapered', weight: 7, gap: 62, length: 290 },
        },
      },
    ],
    finishes: [...LIFTED, { kind: 'crispness', amount: 0.3 }],
  },
  {
    key: 'lockup',
    name: 'Quillon Bay lockup',
    layers: ({ crest }) => [
      sized(crest, -390, 0, 0.34),
      {
        ...{ kind: 'shape', id: 'rule', name: 'Rule', place: { x: -186, y: 18 }, opacity: 0.8 },
        shape: { form: 'line', width: 3, height: 236 },
      },
      {
        ...{ kind: 'lettering', id: 'name', name: 'Ines Marlow', group: 'words' },
        place: { x: -146, y: 22, scaleX: 1.36, scaleY: 1.36 },
        lettering: {
          ...{ text: 'Ines Marlow', font: SERIF, align: 'left', letterSpacing: 2 },
          line: { form: 'straight', weight: 1.4, gap: 24, length: 100 },
        },
      },
      {
        ...{ kind: 'lettering', id: 'rights', name: 'Rights', group: 'words' },
        place: { x: -139, y: 112, scaleX: 0.335, scaleY: 0.335 },
        lettering: {
          ...{ text: '© {year} · Photographs', font: SANS, align: 'left' },
          ...{ letterSpacing: 34, letterCase: 'capitals' },
        },
      },
    ],
    finishes: [
      { kind: 'outline', width: 0.32, strength: 0.4 },
      { kind: 'shadow', distance: 0.3, angle: 60, softness: 1.2, strength: 0.42 },
    ],
  },
  {
    key: 'seal',
    name: 'Quillon Bay seal',
    layers: ({ initials }) => [
      shape('outer', 'Outer ring', 1_000, 12),
      shape('inner', 'Inner ring', 640, 6),
      {
        ...{ kind: 'lettering', id: 'above', name: 'Quillon Bay' },
        place: { y: -374, scaleX: 1.05, scaleY: 1.05 },
        lettering: { text: 'QUILLON BAY', font: STONE, letterSpacing: 12, arcDeg: 142 },
      },
      {
        ...{ kind: 'lettering', id: 'beneath', name: 'Pictures' },
        place: { y: 440, scaleX: 0.86, scaleY: 0.86 },
        lettering: { text: 'PICTURES', font: STONE, letterSpacing: 22, arcDeg: -82 },
      },
      shape('left', 'Left dot', 26, 13, -410, 60),
      shape('right', 'Right dot', 26, 13, 410, 60),
      sized(initials, 0, 0, 0.42),
    ],
    finishes: [
      { kind: 'fill', opacity: 0.4 },
      { kind: 'bevel', size: 0.9, depth: 0.85, angle: -125 },
      { kind: 'shadow', distance: 0.5, angle: 55, softness: 1, strength: 0.55, colour: '#000000' },
    ],
  },
  {
    key: 'number',
    name: 'Proof number',
    layers: () => [
      {
        ...{ kind: 'lettering', id: 'number', name: 'Number and name' },
        lettering: { text: 'PROOF {number:3} · {name}', font: SANS, letterSpacing: 12 },
      },
    ],
    finishes: LIFTED,
  },
];

function shape(id: string, name: string, width: number, weight: number, x = 0, y = 0): object {
  const measures = { form: 'ring', width, height: width, weight };
  return { kind: 'shape', id, name, place: { x, y }, shape: measures };
}

export function demoDesign({ layers, finishes }: DemoDesign, artwork: DemoArtwork): Design {
  return designSchema.parse({ layers: layers(artwork), finishes });
}
