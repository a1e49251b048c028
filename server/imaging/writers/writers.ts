import type { FileType } from '#core/contract/delivery';
import { writeAvif } from './avif.ts';
import { writeJpeg } from './jpeg.ts';
import { writePng } from './png.ts';
import { writeTiff } from './tiff.ts';
import { writeWebp } from './webp.ts';
import type { Writer } from './writer.ts';

/** Who writes which type of file. */
export const WRITERS: Readonly<Record<FileType, Writer>> = Object.freeze({
  jpeg: writeJpeg,
  png: writePng,
  webp: writeWebp,
  avif: writeAvif,
  tiff: writeTiff,
});
