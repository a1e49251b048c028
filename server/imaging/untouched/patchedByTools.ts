import { writeFile } from 'node:fs/promises';
import type { Box } from '#core/placement/geometry';
import type { Pixels } from '#core/pixels';
import { sharp } from '../sharp.ts';
import type { JpegFacts } from '../jpeg/jpegFacts.ts';
import { runTool } from './jpegTools.ts';
import { encoderWords, portablePixmap, type Patching } from './patching.ts';

/** Patch by patch, each cut out of the photo, marked, and put in again: by programs, each for all of the file. */
export async function patchedByTools(patching: Patching): Promise<Buffer> {
  const { facts, patches, marked, path, spare } = patching;
  const words = await encoderWords(facts);
  let result = patching.jpeg;
  for (const [index, patch] of patches.entries()) {
    const cut = await runTool('jpegtran', ['-crop', cropOf(patch), path]);
    const part = marked(await pixelsOf(cut), patch);
    await writeFile(spare, await runTool('cjpeg', words, portablePixmap(part)));
    const at = `+${patch.x}+${patch.y}`;
    const drop = ['-copy', 'none', ...kindWords(facts), '-drop', at, spare];
    result =
      index === 0
        ? await runTool('jpegtran', [...drop, path])
        : await runTool('jpegtran', drop, result);
  }
  return result;
}

const cropOf = ({ x, y, width, height }: Box): string => `${width}x${height}+${x}+${y}`;

/** Progressive files stay so, and what readers can start again at as well. */
function kindWords({ process, restartBlocks }: JpegFacts): string[] {
  return [
    ...(process === 'progressive' ? ['-progressive'] : []),
    ...(restartBlocks > 0 ? ['-restart', `${restartBlocks}B`] : []),
  ];
}

/** In the photo's own numbers, whatever they mean. */
async function pixelsOf(cut: Buffer): Promise<Pixels> {
  const { data, info } = await sharp(cut, { ignoreIcc: true, failOn: 'warning' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = info;
  const samples = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  return { data: samples, width, height, channels: 3 };
}
