import { UNTOUCHED } from '#core/contract/delivery';
import { failure, success, type Result } from '#core/result';
import { writeTemporary } from '../../storage/atomicWrite.ts';
import { storageSentence } from '../../storage/storageErrors.ts';
import type { MarkSource } from '../compose.ts';
import { frameProblem } from '../frameProblem.ts';
import { messageOf } from '../imageErrors.ts';
import { outputBlocks } from '../metadata/blocks.ts';
import type { Rasteriser } from '../raster/rasteriser.ts';
import { withSvgReader } from '../raster/svgReader.ts';
import { WRITERS } from '../writers/writers.ts';
import { sheetPicture } from './sheetPicture.ts';
import { writeSheetPdf } from './sheetPdf.ts';
import { SheetLayout } from './sheetLayout.ts';
import type { SheetFile, SheetJob, WrittenDocument } from './sheetJob.ts';

/** A delivery to paper has always a quality; this is for one that was changed by hand. */
const PICTURE_QUALITY = 95;

/** Sheets of photos that were made ready, into temporary files. @returns one for each file, or why not */
export async function writeSheets(
  job: SheetJob,
  marks: readonly MarkSource[],
  rasteriser: Rasteriser,
): Promise<Result<WrittenDocument[]>> {
  const layout = SheetLayout.of(job, marks, rasteriser);
  if (!layout.ok) return layout;
  if (layout.value.count === 0) return failure('None of its photos could be made.');
  const written: WrittenDocument[] = [];
  for (const file of job.files) {
    const one =
      file.sheet === null
        ? await writeSheetPdf(job, layout.value, file.temporaryPath, rasteriser)
        : await writePicture(job, layout.value, { ...file, sheet: file.sheet }, rasteriser);
    if (!one.ok) return one;
    written.push(one.value);
  }
  return success(written);
}

async function writePicture(
  job: SheetJob,
  layout: SheetLayout,
  { sheet: at, temporaryPath }: SheetFile & { readonly sheet: number },
  rasteriser: Rasteriser,
): Promise<Result<WrittenDocument>> {
  const { sheet: rule, file, metadata } = job.rule;
  const sheet = await layout.sheet(at);
  if (!sheet.ok) return sheet;
  const tooLarge = frameProblem(sheet.value.margin.frame);
  if (tooLarge) return failure(tooLarge);
  const picture = await withSvgReader(() => sheetPicture(job, sheet.value, rasteriser));
  if (!picture.ok) return picture;
  try {
    const said = { ...metadata, keep: 'none' } as const;
    const blocks = await outputBlocks({}, said, { frame: picture.value, dpi: rule.dpi });
    const type = rule.as === 'tiff' ? 'tiff' : 'jpeg';
    const quality = file.quality === UNTOUCHED ? PICTURE_QUALITY : file.quality;
    const made = await WRITERS[type](picture.value, { ...file, type, quality }, blocks);
    await writeTemporary(temporaryPath, made.parts, null);
    const bytes = made.parts.reduce((sum, part) => sum + part.length, 0);
    return success({ temporaryPath, bytes });
  } catch (error) {
    const isStorage = (error as NodeJS.ErrnoException).code !== undefined;
    return failure(isStorage ? storageSentence(temporaryPath, error) : messageOf(error));
  }
}
