import { stat, unlink } from 'node:fs/promises';
import { basename } from 'node:path';
import { UNTOUCHED, type DeliveryRule } from '#core/contract/delivery';
import type { Canvas, Pixels } from '#core/pixels';
import type { Box, Size } from '#core/placement/geometry';
import { failure, success, type Result } from '#core/result';
import { canvasCells, changedCells } from '#core/verify/coarseCells';
import type { ReadBack } from '#core/verify/readBack';
import { writeTemporary } from '../../storage/atomicWrite.ts';
import { storageSentence } from '../../storage/storageErrors.ts';
import { UPRIGHT } from '../metadata/exifBlock.ts';
import { outputBlocks } from '../metadata/blocks.ts';
import { rightsOfPhoto } from '../metadata/rights.ts';
import { fileWords } from '../photo/fileWords.ts';
import type { MarkOnPhoto } from '../judgePhoto.ts';
import { tokensOn } from '../raster/artwork.ts';
import { wordsSaid } from '../raster/wordsSaid.ts';
import { readBack, type ExpectedMark } from '../readBack/readBack.ts';
import { workingCopies, workingPhoto } from '../workingPhoto.ts';
import type { WrittenFile } from '../writers/writer.ts';
import { WRITERS } from '../writers/writers.ts';
import { coloursNote, type OpenedPhoto } from './openedPhoto.ts';
import { markCanvas, type Judging } from './markCanvas.ts';
import type { OutputJob, RenderedOutput } from './renderJob.ts';
import { sharpened } from './sharpened.ts';

/** A delivery that leaves a photo untouched never comes here but as one of a quality. */
const WHOLE_QUALITY = 95;

/** Everything of an output but the time that it took. */
export type MadeOutput = Omit<RenderedOutput, 'durationMs'>;

/** An output of which all is made, while the disk takes its bytes: the next one need not wait for that. */
export interface StoringOutput {
  readonly stored: Promise<Result<MadeOutput>>;
}

/** Unmarked pixels of an output → its file: sharpen, judge, mark, encode, write. */
export async function renderOutput(
  output: OutputJob,
  unsharpened: Canvas,
  photo: OpenedPhoto,
): Promise<Result<StoringOutput>> {
  const { deliveryRule } = output;
  const { probed } = photo;
  const isSmaller = unsharpened.width < probed.size.width;
  const canvas = await sharpened(unsharpened, isSmaller ? deliveryRule.sharpen : 'none');
  const marked = deliveryRule.mark
    ? await marksOn(canvas, output, photo)
    : success({ marks: [], yearFromFile: null, drawn: null, wordsNote: null });
  if (!marked.ok) return marked;
  const written = await encoded(canvas, deliveryRule, photo);
  if (!written.ok) return written;
  const { parts, note, icc } = written.value;
  const { drawn, wordsNote, ...told } = marked.value;
  const frame = { width: canvas.width, height: canvas.height };
  // The pixels themselves are not held until the disk has them.
  const expected = photo.job.readsBack && {
    ...{ frame, orientation: UPRIGHT, icc, file: deliveryRule.file },
    ...{ cells: cellsOf(canvas, drawn), mark: drawn, parts },
  };
  const read = expected ? () => readBack(output.temporaryPath, expected) : null;
  const notes = [coloursNote(probed), wordsNote, note].filter(Boolean).join(' ');
  const facts = { frame, ...told, note: notes || null, bytesBefore: probed.bytes };
  const stored = storeAndRead(parts, output, photo, read).then((result) =>
    result.ok ? success({ ...facts, ...result.value }) : result,
  );
  return success({ stored });
}

function cellsOf(canvas: Canvas, drawn: ExpectedMark | null): Pixels {
  const before = drawn?.without;
  return before ? changedCells(before, canvas, drawn.covered) : canvasCells(canvas);
}

async function marksOn(canvas: Canvas, output: OutputJob, photo: OpenedPhoto) {
  const frame = { width: canvas.width, height: canvas.height };
  const marks = await wantedMarks(output, photo, frame);
  if (!marks.ok) return marks;
  const { wanted, ...told } = marks.value;
  const isSrgb = canvas.space === 'srgb';
  const copies = workingCopies(canvas);
  const ofCanvas = async (seen: Box | null) => success(await copies(seen));
  const judging = judgingOf(photo, frame);
  const working = isSrgb ? ofCanvas : judging.working;
  const profile = isSrgb ? null : photo.profile;
  const marked = await markCanvas(
    canvas,
    wanted,
    { ...judging, working },
    profile,
    photo.rasteriser,
  );
  return marked.ok ? success({ ...marked.value, ...told }) : marked;
}

/** What marks on an output of a photo are judged by, where no pixels of it are at hand. */
export function judgingOf({ job, probed, proxy }: OpenedPhoto, frame: Size): Judging {
  const { source, measures, readsBack } = job;
  let whole: ReturnType<typeof workingPhoto> | null = null;
  const working = () => (whole ??= workingPhoto(source, probed, frame));
  return { proxy, measures, readsBack, working };
}

/** The marks of an output as they are wanted on the photo. */
interface WantedMarks {
  readonly wanted: readonly Omit<MarkOnPhoto, 'below'>[];
  /** The year written for want of a capture date, that of the file; else null. */
  readonly yearFromFile: number | null;
  /** What should be known of their words, as a sentence; or null. */
  readonly wordsNote: string | null;
}

/** The marks of an output with the words that they take of the photo. */
export async function wantedMarks(
  output: OutputJob,
  { job, marks, probed }: OpenedPhoto,
  frame: Size,
): Promise<Result<WantedMarks>> {
  const tokens = output.marks.flatMap(({ mark }) => tokensOn(marks[mark].artwork));
  const { words, yearFromFile } = await fileWords(job.source, probed, job.named, tokens);
  const wanted = output.marks.map(({ rule, adjustment, mark }) => {
    return { subject: { frame, rule, adjustment, words }, mark: marks[mark] };
  });
  const laid = output.deliveryRule.mark ? wanted.map(({ mark }) => mark) : [];
  const said = wordsSaid(laid, words, basename(job.source));
  return said.ok ? success({ wanted, yearFromFile, wordsNote: said.value }) : said;
}

/** A canvas as the bytes of a file. */
export async function encoded(
  canvas: Canvas,
  { file, metadata, dpi }: DeliveryRule,
  { job, probed, profile }: OpenedPhoto,
): Promise<Result<WrittenFile & { readonly icc: Uint8Array | null }>> {
  const { width, height } = canvas;
  try {
    const isCopyright = metadata.keep === 'copyright';
    const own = isCopyright ? await rightsOfPhoto(job.source, probed.metadata) : null;
    const icc = canvas.space === 'photo' ? (profile?.bytes ?? null) : null;
    const blocks = await outputBlocks(probed.metadata, metadata, { frame: canvas, dpi, own, icc });
    const quality = file.quality === UNTOUCHED ? WHOLE_QUALITY : file.quality;
    const written = await WRITERS[file.type](canvas, { ...file, quality }, blocks);
    return success({ ...written, icc: blocks.icc });
  } catch (error) {
    const type = file.type.toUpperCase();
    const { message } = error as Error;
    return failure(`A ${type} of ${width} × ${height} px could not be made (${message}).`);
  }
}

/** Finished bytes into the temporary file of an output. @returns how many */
export async function store(
  parts: readonly Uint8Array[],
  { temporaryPath, deliveryRule }: OutputJob,
  { job }: OpenedPhoto,
  whileFlushing?: () => Promise<void> | undefined,
): Promise<Result<number>> {
  try {
    const keepsDate = deliveryRule.dates === 'photo';
    const modified = keepsDate ? (await stat(job.source)).mtime : null;
    await writeTemporary(temporaryPath, parts, modified, whileFlushing);
  } catch (error) {
    return failure(storageSentence(temporaryPath, error));
  }
  return success(parts.reduce((sum, part) => sum + part.length, 0));
}

/**
 * The same, and the file read back. One that cannot be opened is none: the photo has failed, and can be tried
 * again.
 *
 * @param read null: it is not asked for
 */
export async function storeAndRead(
  parts: readonly Uint8Array[],
  output: OutputJob,
  photo: OpenedPhoto,
  read: (() => Promise<ReadBack>) | null,
): Promise<Result<{ readonly bytesAfter: number; readonly readBack: ReadBack | null }>> {
  let found: ReadBack | null = null;
  let thrown: Error | null = null;
  // What keeps the photo from being compared, such as that it was moved, says nothing of where the output goes.
  const whileFlushing = () =>
    read?.().then(
      (one) => void (found = one),
      (error: Error) => void (thrown = error),
    );
  const stored = await store(parts, output, photo, whileFlushing);
  if (!stored.ok) return stored;
  if (thrown) {
    await unlink(output.temporaryPath).catch(() => undefined);
    throw thrown as Error;
  }
  return readable(found, stored.value, output);
}

async function readable(found: ReadBack | null, bytesAfter: number, { temporaryPath }: OutputJob) {
  if (!found || found.decodes) return success({ bytesAfter, readBack: found });
  await unlink(temporaryPath).catch(() => undefined);
  const problem = found.problem?.replace(/^The/, 'the') ?? 'cannot be read.';
  return failure(`It was written, but ${problem}`);
}
