import { writeFile } from 'node:fs/promises';
import { MAX_PHOTO_PIXELS } from './limits.ts';
import { sharp } from './sharp.ts';

/** Pictures of finished outputs for the page, which cannot show every file type. */

const TILE_WITHIN = { width: 900, height: 400 };
const TILE_QUALITY = 82;
const VIEW_QUALITY = 95;

export async function makeOutputTile(output: string, tilePath: string): Promise<void> {
  const tile = await sharp(output, { limitInputPixels: MAX_PHOTO_PIXELS })
    .resize({ ...TILE_WITHIN, fit: 'inside', withoutEnlargement: true })
    .flatten({ background: '#ffffff' })
    .jpeg({ quality: TILE_QUALITY })
    .toBuffer();
  await writeFile(tilePath, tile);
}

/** All pixels of an output, as JPEG, for the types that browsers do not show. */
export function outputAsJpeg(output: string): Promise<Buffer> {
  return sharp(output, { limitInputPixels: MAX_PHOTO_PIXELS })
    .flatten({ background: '#ffffff' })
    .jpeg({ quality: VIEW_QUALITY, chromaSubsampling: '4:4:4' })
    .toBuffer();
}
