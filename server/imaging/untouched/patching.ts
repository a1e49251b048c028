import type { Box } from '#core/placement/geometry';
import type { Pixels } from '#core/pixels';
import { keptFile } from '../../storage/keptFile.ts';
import { isRgb, type JpegFacts } from '../jpeg/jpegFacts.ts';

/** Parts of a JPEG that are to be other than they are. */
export interface Patching {
  readonly jpeg: Buffer;
  /** Where it lies. */
  readonly path: string;
  readonly facts: JpegFacts;
  /** Whole blocks, as the photo is stored. */
  readonly patches: readonly Box[];
  /** A patch as it is to be. @param cut as it is, in the photo's own numbers */
  readonly marked: (cut: Pixels, patch: Box) => Pixels;
  /** Path of a file that may be written to. */
  readonly spare: string;
}

/** How `cjpeg` encodes pixels just as those of a photo were: with its own tables and sampling. */
export async function encoderWords(facts: JpegFacts): Promise<string[]> {
  const numbers = [...facts.tables.keys()].sort((a, b) => a - b);
  const steps = numbers.map((number) => facts.tables.get(number)?.join(' ')).join('\n');
  const tables = await keptFile(Buffer.from(`${steps}\n`, 'latin1'), 'txt');
  const { components } = facts;
  const isGrey = components.length === 1;
  return [
    ...['-dct', 'int', '-qtables', tables],
    ...['-qslots', components.map(({ table }) => numbers.indexOf(table)).join(',')],
    // The sampling of a single component says nothing.
    ...['-sample', isGrey ? '1x1' : components.map(samplingOf).join(',')],
    ...(isGrey ? ['-grayscale'] : []),
    ...(isRgb(facts) ? ['-rgb'] : []),
  ];
}

const samplingOf = ({ across, down }: { across: number; down: number }): string =>
  `${across}x${down}`;

/** Pixels as `cjpeg` reads them (Netpbm's PPM). */
export function portablePixmap({ data, width, height }: Pixels): Buffer {
  const head = Buffer.from(`P6\n${width} ${height}\n255\n`, 'latin1');
  return Buffer.concat([head, Buffer.from(data.buffer, data.byteOffset, data.byteLength)]);
}
