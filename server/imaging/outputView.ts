import type { Size } from '#core/placement/geometry';
import { failure, success, type Result } from '#core/result';
import { photoSentence } from './imageErrors.ts';
import { MAX_PHOTO_PIXELS } from './limits.ts';
import { decodePhoto } from './photo/decode.ts';
import { probePhoto } from './photo/probe.ts';
import { sharp, sharpOf } from './sharp.ts';

/** Pictures of finished outputs for the page, which cannot show every file type. */

const TILE_WITHIN = { width: 900, height: 400 };
const TILE_QUALITY = 82;
const VIEW_QUALITY = 95;

/** A small JPEG of an output. */
export function outputTile(output: string): Promise<Result<Uint8Array>> {
  return read(output, (picture) =>
    picture
      .resize({ ...TILE_WITHIN, fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: TILE_QUALITY }),
  );
}

/** All pixels of an output, as JPEG, for the types that browsers do not show. */
export function outputAsJpeg(output: string): Promise<Result<Uint8Array>> {
  return read(output, (picture) =>
    picture
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: VIEW_QUALITY, chromaSubsampling: '4:4:4' }),
  );
}

/** A photo without its mark in the size of an output, as JPEG. */
export async function sourceAsJpeg(source: string, frame: Size): Promise<Result<Uint8Array>> {
  const probed = await probePhoto(source);
  if (!probed.ok) return probed;
  const decoded = await decodePhoto(source, probed.value, { frame, flatten: true });
  if (!decoded.ok) return decoded;
  return success(await sharpOf(decoded.value).jpeg({ quality: VIEW_QUALITY }).toBuffer());
}

type Pipeline = ReturnType<typeof sharp>;

async function read(
  output: string,
  shown: (picture: Pipeline) => Pipeline,
): Promise<Result<Uint8Array>> {
  try {
    // One of 16 bits would be left in a wider space.
    const picture = sharp(output, { limitInputPixels: MAX_PHOTO_PIXELS }).withIccProfile('srgb');
    return success(await shown(picture).toBuffer());
  } catch (error) {
    return failure(photoSentence(output, error));
  }
}
