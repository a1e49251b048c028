import { rmSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { deliveryRuleSchema } from '#core/contract/delivery';
import type { Result } from '#core/result';
import type { MarkSource } from '#server/imaging/compose';
import { withPngMetadata } from '#server/imaging/metadata/pngChunks';
import type { OutputJob, RenderedOutput, RenderJob } from '#server/imaging/pass/renderJob';
import { renderPhoto } from '#server/imaging/pass/renderPhoto';
import { drawMark } from '#server/imaging/raster/drawMark';
import { importArtwork } from '#server/imaging/raster/importArtwork';
import { Rasteriser } from '#server/imaging/raster/rasteriser';
import { temporaryFolder } from './house.ts';
import { MARK_SVG } from './makePhoto.ts';
import { ruleOf } from './runs.ts';

/** Renders photos in this process, by a plain red mark. */
const NAMED = { name: 'photo.jpg', number: 1, batch: 'Bay' };

export interface PassHouse {
  readonly folder: string;
  output(delivery: object, rule?: object, path?: string): OutputJob;
  render(
    source: string,
    outputs: readonly OutputJob[],
    more?: Partial<RenderJob>,
  ): Promise<Result<RenderedOutput>[]>;
  close(): void;
}

export async function openPassHouse(): Promise<PassHouse> {
  const folder = temporaryFolder();
  const rasteriser = new Rasteriser(drawMark);
  const imported = await importArtwork(Buffer.from(MARK_SVG), rasteriser);
  if (!imported.ok) throw new Error(imported.reason);
  const mark: MarkSource = { key: 'mark', artwork: imported.value.artwork };
  let files = 0;
  return {
    folder,
    output: (delivery, rule = {}, path) => ({
      marks: [
        {
          rule: ruleOf({ tone: { rule: 'fixed', tone: 'original' }, ...rule }),
          ...{ adjustment: {}, mark: 0 },
        },
      ],
      deliveryRule: deliveryRuleSchema.parse(delivery),
      temporaryPath: path ?? join(folder, `output ${++files}`),
    }),
    render: (source, outputs, more = {}) =>
      renderPhoto({ source, named: NAMED, outputs, ...more }, [mark], rasteriser),
    close: () => rmSync(folder, { recursive: true }),
  };
}

export function valueOf(made: Result<RenderedOutput>): RenderedOutput {
  if (!made.ok) throw new Error(made.reason);
  return made.value;
}

export function meanDifference(some: Uint8Array, others: Uint8Array): number {
  if (some.length !== others.length) throw new Error(`${some.length}, not ${others.length}`);
  let sum = 0;
  for (let at = 0; at < some.length; at++) sum += Math.abs(some[at] - others[at]);
  return sum / some.length;
}

export async function p3Profile(): Promise<Buffer> {
  const create = { width: 1, height: 1, channels: 3, background: '#000' } as const;
  const p3 = await sharp({ create }).withIccProfile('p3').png().toBuffer();
  const { icc } = await sharp(p3).metadata();
  if (!icc) throw new Error('no profile');
  return icc;
}

/** A plain PNG whose numbers are those of Display P3, as its profile says. @param data rows of pixels */
export async function wideGamut(data: Uint8Array | Uint16Array, width: number): Promise<Buffer> {
  const space = data instanceof Uint16Array ? 'rgb16' : 'srgb';
  const raw = { width, height: data.length / 3 / width, channels: 3 } as const;
  const plain = await sharp(data, { raw }).toColourspace(space).png().toBuffer();
  const blocks = { exif: null, xmp: null, iptc: null, icc: await p3Profile(), densityPpi: null };
  return Buffer.concat(withPngMetadata(plain, blocks));
}
