import { decompress } from 'wawoff2';
import { failure, success, type Result } from '#core/result';

/** `wOF2`, the first bytes of a WOFF2 file. */
const SIGNATURE = [0x77, 0x4f, 0x46, 0x32];

/** WOFF2 as the plain font that is packed in it; any other file as it is. */
export async function withoutWoff2(bytes: Uint8Array): Promise<Result<Uint8Array>> {
  if (!SIGNATURE.every((value, index) => bytes[index] === value)) return success(bytes);
  try {
    return success(await decompress(bytes));
  } catch {
    return failure('Expected a font as WOFF2, found one that is damaged.');
  }
}
