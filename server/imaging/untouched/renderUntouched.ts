import { readFile } from 'node:fs/promises';
import { blockPatches } from '#core/delivery/blockPatches';
import type { Box, Size } from '#core/placement/geometry';
import {
  storedBox,
  storedPixels,
  turnedSize,
  uprightBox,
  uprightPixels,
} from '#core/placement/orientation';
import type { Pixels } from '#core/pixels';
import { failure, success, type Result } from '#core/result';
import type { ReadBack } from '#core/verify/readBack';
import { storageSentence } from '../../storage/storageErrors.ts';
import {
  blendDrawn,
  coveredBoxes,
  drawnRasters,
  type DrawnRaster,
  type LaidMark,
} from '../compose.ts';
import { messageOf, photoSentence } from '../imageErrors.ts';
import { outputBlocks } from '../metadata/blocks.ts';
import { rightsOfPhoto } from '../metadata/rights.ts';
import { expectedMark, judgedInOrder } from '../pass/markCanvas.ts';
import type { OpenedPhoto } from '../pass/openedPhoto.ts';
import type { OutputJob } from '../pass/renderJob.ts';
import { judgingOf, storeAndRead, wantedMarks, type MadeOutput } from '../pass/renderOutput.ts';
import { fileCells } from '../readBack/fileCells.ts';
import { readBack } from '../readBack/readBack.ts';
import { blockOf, jpegFacts, type JpegFacts } from '../jpeg/jpegFacts.ts';
import { patchedByTools } from './patchedByTools.ts';
import { patchedInMemory } from './patchedInMemory.ts';
import { partsOf, untouchedSegments, withSegments, type JpegParts } from './untouchedSegments.ts';

/**
 * A JPEG in which only the blocks that the mark covers are decoded, marked and encoded again, with the
 * file's own tables and sampling. All others are moved over as they are, coefficient by coefficient.
 */
export async function renderUntouched(
  output: OutputJob,
  photo: OpenedPhoto,
): Promise<Result<MadeOutput>> {
  const { job, probed } = photo;
  const jpeg = await readFile(job.source).catch((error: Error) => error);
  // It was there a moment ago, and may have been moved since.
  if (jpeg instanceof Error) return failure(photoSentence(job.source, jpeg));
  const facts = jpegFacts(jpeg);
  if (!facts) return failure(photoSentence(job.source, new Error('damaged headers: corrupt')));
  const marked = output.deliveryRule.mark
    ? await marking(output, photo)
    : success({ marks: [], laid: [], yearFromFile: null, wordsNote: null });
  if (!marked.ok) return marked;
  const { laid, wordsNote, ...told } = marked.value;
  const work = { output, photo, facts, laid };
  try {
    const patched =
      laid.length > 0 ? await withMarks(jpeg, work) : success({ parts: partsOf(jpeg), note: null });
    if (!patched.ok) return patched;
    const segments = await segmentsOf(facts, output, photo);
    const parts = withSegments(patched.value.parts, segments);
    const read = job.readsBack ? () => readUntouched(work) : null;
    const stored = await storeAndRead(parts, output, photo, read);
    if (!stored.ok) return stored;
    return success({
      ...{ frame: probed.size, ...told, ...stored.value },
      note: [wordsNote, patched.value.note].filter(Boolean).join(' ') || null,
      bytesBefore: probed.bytes,
    });
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code && code !== 'ENOENT') return failure(storageSentence(output.temporaryPath, error));
    return failure(photoSentence(job.source, new Error(`damaged: corrupt (${messageOf(error)})`)));
  }
}

/** Beside its blocks, decoders smooth the colours of neighbours into each other. */
const UNTOUCHED_LIMIT = Object.freeze({ mean: 0.5, worst: 16 });

async function readUntouched({ output, photo, laid }: Work): Promise<ReadBack> {
  const { job, probed } = photo;
  return readBack(output.temporaryPath, {
    ...{ frame: probed.size, orientation: probed.orientation, icc: probed.icc },
    ...{ file: output.deliveryRule.file, limit: UNTOUCHED_LIMIT },
    cells: await fileCells(job.source, probed),
    mark: laid.length > 0 ? expectedMark(probed.size, laid, null) : null,
  });
}

async function marking(output: OutputJob, photo: OpenedPhoto) {
  const { probed, rasteriser } = photo;
  const marks = await wantedMarks(output, photo, probed.size);
  if (!marks.ok) return marks;
  const { wanted, ...told } = marks.value;
  const judging = judgingOf(photo, probed.size);
  const judged = await judgedInOrder(wanted, judging, rasteriser);
  return judged.ok ? success({ ...judged.value, ...told }) : judged;
}

interface Work {
  readonly output: OutputJob;
  readonly photo: OpenedPhoto;
  readonly facts: JpegFacts;
  /** The marks, the lowest first. */
  readonly laid: readonly LaidMark[];
}

/** @returns the photo with the blocks under the marks encoded again, and what is to be said of that */
async function withMarks(
  jpeg: Buffer,
  { output, photo, facts, laid }: Work,
): Promise<Result<{ readonly parts: JpegParts; readonly note: string | null }>> {
  const { job, probed, rasteriser, profile } = photo;
  const { orientation, size: frame } = probed;
  const stored = turnedSize(frame, orientation);
  const covered = laid.flatMap((one) => coveredBoxes(frame, one));
  const boxes = covered.map((box) => storedBox(box, stored, orientation));
  const patches = blockPatches(boxes, facts.size, blockOf(facts));
  const rasters: DrawnRaster[] = [];
  for (const one of laid) {
    for await (const drawn of drawnRasters(frame, one, rasteriser, profile)) {
      if (!drawn.ok) return drawn;
      rasters.push(drawn.value);
    }
  }
  const marked = (cut: Pixels, patch: Box): Pixels => {
    const part = uprightPixels(cut, orientation);
    const { x: left, y: top } = uprightBox(patch, stored, orientation);
    for (const drawn of rasters) blendDrawn(part, drawn, { left, top });
    return storedPixels(part, orientation);
  };
  const patching = { jpeg, facts, patches, marked, path: job.source, spare: output.temporaryPath };
  const parts = (await patchedInMemory(patching)) ?? partsOf(await patchedByTools(patching));
  const copies = laid.reduce((sum, { placement }) => sum + placement.copies.length, 0);
  const isJoined = boxes.length > patches.length && patches.length > 1 && copies > patches.length;
  const note = isJoined ? 'What lies between copies of the mark was encoded again as well.' : null;
  return success({ parts, note });
}

async function segmentsOf(
  facts: JpegFacts,
  { deliveryRule }: OutputJob,
  { job, probed }: OpenedPhoto,
): Promise<Buffer[]> {
  const { metadata, dpi } = deliveryRule;
  const isCopyright = metadata.keep === 'copyright';
  const own = isCopyright ? await rightsOfPhoto(job.source, probed.metadata) : null;
  const frame: Size = facts.size;
  const wish = { frame, dpi, own, storedAs: probed.orientation };
  const blocks = await outputBlocks(probed.metadata, metadata, wish);
  return untouchedSegments(facts.segments, { ...blocks, icc: probed.icc }, metadata, dpi);
}
