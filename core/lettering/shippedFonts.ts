/** Fonts that ship with Light Crest, all under the SIL Open Font License (see `fonts/`). */

export const FONT_KINDS = ['hand', 'serif', 'sans', 'own'] as const;
export type FontKind = (typeof FONT_KINDS)[number];

export interface FontFaceInfo {
  readonly weight: number;
  readonly italic: boolean;
}

export interface FontFamily {
  /** How a design names it, and the folder it lies in. */
  readonly id: string;
  readonly name: string;
  readonly kind: FontKind;
  /** Words that find it while typing, besides its name and kind. */
  readonly words: string;
  readonly faces: readonly FontFaceInfo[];
}

const upright = (...weights: number[]): FontFaceInfo[] =>
  weights.map((weight) => ({ weight, italic: false }));
const italic = (...weights: number[]): FontFaceInfo[] =>
  weights.map((weight) => ({ weight, italic: true }));

const hand = (id: string, name: string, words: string, ...weights: number[]): FontFamily => ({
  ...{ id, name, words, kind: 'hand' },
  faces: upright(...(weights.length > 0 ? weights : [400])),
});

export const SHIPPED_FONTS: readonly FontFamily[] = [
  hand('great-vibes', 'Great Vibes', 'signature formal flowing pointed pen'),
  hand('allura', 'Allura', 'signature clean open'),
  hand('alex-brush', 'Alex Brush', 'signature brush flowing'),
  hand('sacramento', 'Sacramento', 'signature monoline thin'),
  hand('meow-script', 'Meow Script', 'signature lively upright'),
  hand('dancing-script', 'Dancing Script', 'signature bouncing friendly', 400, 700),
  hand('caveat', 'Caveat', 'note marker felt pen', 400, 700),
  {
    ...{ id: 'cormorant-garamond', name: 'Cormorant Garamond', kind: 'serif' },
    words: 'book light elegant',
    faces: [...upright(400, 600), ...italic(400, 600)],
  },
  {
    ...{ id: 'playfair-display', name: 'Playfair Display', kind: 'serif' },
    words: 'book contrast heading',
    faces: [...upright(400, 700), ...italic(400, 700)],
  },
  {
    ...{ id: 'cinzel', name: 'Cinzel', kind: 'serif' },
    words: 'capitals inscription stone wide',
    faces: upright(400, 700),
  },
  {
    ...{ id: 'josefin-sans', name: 'Josefin Sans', kind: 'sans' },
    words: 'sober geometric thin',
    faces: [...upright(300, 400, 600), ...italic(300)],
  },
  {
    ...{ id: 'montserrat', name: 'Montserrat', kind: 'sans' },
    words: 'sober wide strong',
    faces: [...upright(300, 500, 700), ...italic(500)],
  },
];

/** The face nearest to what is wished: the slant counts first, then the weight. */
export function nearestFace(
  faces: readonly FontFaceInfo[],
  wish: FontFaceInfo,
): FontFaceInfo | null {
  const slanted = faces.filter((face) => face.italic === wish.italic);
  const among = slanted.length > 0 ? slanted : faces;
  return among.reduce<FontFaceInfo | null>((best, face) => {
    const far = Math.abs(face.weight - wish.weight);
    return best && Math.abs(best.weight - wish.weight) <= far ? best : face;
  }, null);
}

/** Name of a face's file below its family, and the key it is known by. */
export function faceKey(family: string, { weight, italic: isItalic }: FontFaceInfo): string {
  return `${family}/${weight}${isItalic ? '-italic' : ''}`;
}
