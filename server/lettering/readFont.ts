import { Face } from '#core/lettering/face';
import { readSfnt } from '#core/lettering/sfnt';
import { success, type Result } from '#core/result';
import { withoutWoff2 } from './woff2.ts';

/** A font file that can be set in, with what it says of itself. */
export interface ReadFont {
  /** TrueType or OpenType. */
  readonly bytes: Uint8Array;
  readonly family: string;
  readonly weight: number;
  readonly italic: boolean;
}

/** Opens a TrueType, OpenType or WOFF2 file; belongs into a process that can be killed. */
export async function readFont(bytes: Uint8Array): Promise<Result<ReadFont>> {
  const plain = await withoutWoff2(bytes);
  if (!plain.ok) return plain;
  const info = readSfnt(plain.value);
  if (!info.ok) return info;
  const face = Face.read(plain.value);
  if (!face.ok) return face;
  const { family, weight, italic } = info.value;
  return success({ bytes: plain.value, family, weight, italic });
}
