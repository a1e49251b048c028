import { basename } from 'node:path';

/**
 * Endings of raw files of cameras. Many are TIFF inside, so a reader of TIFF takes the small preview in
 * them for the photo: they are known by their names before anything is read.
 */
const RAW_ENDING =
  /\.(3fr|arw|cr2|cr3|crw|dcr|dng|erf|fff|iiq|kdc|mef|mos|mrw|nef|nrw|orf|pef|raf|raw|rw2|rwl|sr2|srf|srw|x3f)$/i;

export function isRawFile(name: string): boolean {
  return RAW_ENDING.test(name);
}

/** What to do with a raw file, or null for any other. */
export function rawFileSentence(path: string): string | null {
  if (!isRawFile(path)) return null;
  return (
    `${basename(path)} is a raw file of a camera, and those are not read. Develop it, and bring in ` +
    'the JPEG, TIFF or PNG.'
  );
}
