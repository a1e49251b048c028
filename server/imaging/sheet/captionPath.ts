import type { FontChoice } from '#core/contract/design';
import type { Box } from '#core/placement/geometry';
import { matrixOf } from '#core/path/matrix';
import { pathTextWith, transformedPath, type Path } from '#core/path/path';
import { faceOf, SHIPPED_FONTS_FOLDER } from '../../lettering/fontBook.ts';

const CAPTION_FONT: FontChoice = { family: 'montserrat', weight: 500, italic: false };
const DECIMALS = 4;
const ELLIPSIS = '…';

/**
 * A caption as outlines, in the middle of its place, cut where it is too long; empty where the font has
 * none of its letters.
 *
 * @param place mm
 * @param size of the letters, mm
 * @returns an SVG path, mm
 */
export function captionPath(text: string, place: Box, size: number): string {
  const face = faceOf([SHIPPED_FONTS_FOLDER], CAPTION_FONT);
  if (!face || text.trim() === '') return '';
  const scale = size / face.unitsPerEm;
  const line = fitted(text, (some) => face.set(some, 0).width * scale, place.width);
  const set = face.set(line, 0);
  const x = place.x + (place.width - set.width * scale) / 2;
  const baseline = place.y + (place.height + face.capHeight * scale) / 2;
  const glyphs: Path = set.glyphs.flatMap((glyph) => {
    const at = matrixOf(x + glyph.x * scale, baseline - glyph.y * scale, 0, scale, -scale);
    return [...transformedPath(face.outline(glyph.id), at)];
  });
  return pathTextWith(glyphs, DECIMALS);
}

function fitted(text: string, widthOf: (text: string) => number, most: number): string {
  if (widthOf(text) <= most) return text;
  const signs = [...text];
  let low = 0;
  let high = signs.length;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    const isShort = widthOf(signs.slice(0, middle).join('') + ELLIPSIS) <= most;
    if (isShort) low = middle;
    else high = middle - 1;
  }
  return signs.slice(0, low).join('').trimEnd() + ELLIPSIS;
}
