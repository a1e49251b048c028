import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { withPngMetadata } from '../metadata/pngChunks.ts';
import { sharp, sharpOf } from '../sharp.ts';

/** Levels of a channel that are tried, with all of the others. */
const STEPS = 18;
const STEP = 255 / (STEPS - 1);
/** Rounding, of profiles that give their curve as a table. */
const MOST_LEVELS = 1;

const known = new LRUCache<string, Promise<boolean>>({ max: 100 });

/**
 * Whether a profile stands for sRGB itself: what most programs write into what they export. By its
 * numbers, not by its name: colours all over its range are converted by it, once. Photos that have it
 * need not be converted pixel by pixel to what they are, which takes longer than decoding them.
 */
export function isSrgbProfile(icc: Uint8Array): Promise<boolean> {
  const key = createHash('sha256').update(icc).digest('base64');
  const tried = known.get(key) ?? convertsToItself(icc).catch(() => false);
  known.set(key, tried);
  return tried;
}

async function convertsToItself(icc: Uint8Array): Promise<boolean> {
  const colours = colourGrid();
  const picture = { data: colours, width: STEPS * STEPS, height: STEPS, channels: 3 } as const;
  const plain = await sharpOf(picture).png().toBuffer();
  const none = { exif: null, xmp: null, iptc: null, densityPpi: null };
  const profiled = Buffer.concat(withPngMetadata(plain, { ...none, icc }));
  const converted = await sharp(profiled).toColourspace('srgb').raw().toBuffer();
  // Where a profile is not one of colours, the library leaves it out and the numbers as they are.
  const { icc: read } = await sharp(profiled).metadata();
  if (!read || read.toString('latin1', 16, 20) !== 'RGB ') return false;
  return colours.every((level, at) => Math.abs(level - converted[at]) <= MOST_LEVELS);
}

function colourGrid(): Uint8Array {
  const levels = Array.from({ length: STEPS }, (_, step) => Math.round(step * STEP));
  return Uint8Array.from(
    levels.flatMap((red) =>
      levels.flatMap((green) => levels.flatMap((blue) => [red, green, blue])),
    ),
  );
}
