import { exampleWords } from '#core/lettering/photoWords';
import { readFileSync } from 'node:fs';
import type { FontChoice, Parts } from '#core/contract/design';
import type { DrawContext } from '#core/design/context';
import { Face } from '#core/lettering/face';
import { drawContext, SHIPPED_FONTS_FOLDER } from '#server/lettering/fontBook';

/** Fonts that ship, for tests of what is set in them. */

export function faceBytes(family: string, face = '400'): Uint8Array {
  return readFileSync(`${SHIPPED_FONTS_FOLDER}/${family}/${face}.ttf`);
}

export function shippedFace(family: string, face = '400'): Face {
  const read = Face.read(faceBytes(family, face));
  if (!read.ok) throw new Error(read.reason);
  return read.value;
}

export function context(parts: Parts = {}, year = 2_026): DrawContext {
  return drawContext(parts, [SHIPPED_FONTS_FOLDER], exampleWords(year));
}

export const font = (family: string, weight = 400): FontChoice => ({
  ...{ family, weight, italic: false },
});
