import { entropyScan } from '#server/imaging/jpeg/entropy/entropyScan';
import { jpegFacts } from '#server/imaging/jpeg/jpegFacts';
import { jpegLibrary } from '#server/imaging/jpeg/jpegLibrary';

/** Elsewhere, the library may be another, which sets no restarts. */
export const HAS_RESTARTS = process.platform === 'linux' && jpegLibrary() !== null;

/** How many stretches of a JPEG can be read alone. */
export function rowsOf(jpeg: Buffer): number {
  return stretchesOf(jpeg).length;
}

/** The same file, with nonsense in the second half of a row. */
export function damagedIn(jpeg: Buffer, row: number): Buffer {
  const [from, to] = stretchesOf(jpeg)[row].bytes;
  // Which no marker has in it.
  return Buffer.from(jpeg).fill(0x55, Math.floor((from + to) / 2), to);
}

function stretchesOf(jpeg: Buffer) {
  const facts = jpegFacts(jpeg);
  return (facts && entropyScan(jpeg, facts)?.stretches) ?? [];
}
