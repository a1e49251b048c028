import type { Canvas } from '#core/pixels';
import type { Box } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import type { PreparedPart } from '#core/sheet/photoOnSheet';
import { sharpOf } from '../sharp.ts';
import { workingCopies } from '../workingPhoto.ts';
import { judgedInOrder } from './markCanvas.ts';
import type { OpenedPhoto } from './openedPhoto.ts';
import type { OutputJob } from './renderJob.ts';
import { sharpened } from './sharpened.ts';
import { encoded, store, wantedMarks, type StoringOutput } from './renderOutput.ts';

/**
 * A photo for a sheet: the part that is printed, as a file without marks. They are judged on what is left
 * of it when the sheet is trimmed, and drawn when the sheet is made, where they may stay outlines.
 */
export async function renderPrepared(
  output: OutputJob,
  unsharpened: Canvas,
  photo: OpenedPhoto,
): Promise<Result<StoringOutput>> {
  const { part, trim } = output.prepared ?? WHOLE;
  const isSmaller = unsharpened.width < photo.probed.size.width;
  const { sharpen } = output.deliveryRule;
  const whole = await sharpened(unsharpened, isSmaller ? sharpen : 'none');
  const printed = await cutTo(whole, part);
  const trimmed = await cutTo(printed, trim);
  const frame = { width: trimmed.width, height: trimmed.height };
  const marks = await wantedMarks(output, photo, frame);
  if (!marks.ok) return marks;
  const { wanted, yearFromFile, wordsNote } = marks.value;
  const copies = workingCopies(trimmed);
  const judged = await judgedInOrder(
    output.deliveryRule.mark ? wanted : [],
    { measures: photo.job.measures, working: async (seen) => success(await copies(seen)) },
    photo.rasteriser,
  );
  if (!judged.ok) return judged;
  const written = await encoded(printed, output.deliveryRule, photo);
  if (!written.ok) return written;
  const { parts, note } = written.value;
  const notes = [wordsNote, note].filter(Boolean).join(' ');
  const facts = {
    ...{ frame, marks: judged.value.marks, words: wanted.at(0)?.subject.words, yearFromFile },
    ...{ readBack: null, note: notes || null, bytesBefore: photo.probed.bytes },
  };
  const stored = store(parts, output, photo).then((bytes) =>
    bytes.ok ? success({ ...facts, bytesAfter: bytes.value }) : bytes,
  );
  return success({ stored });
}

const ALL: Box = { x: 0, y: 0, width: 1, height: 1 };
const WHOLE: PreparedPart = Object.freeze({ part: ALL, trim: ALL });

/** Whole pixels, at least one. @param part in shares */
async function cutTo(canvas: Canvas, part: Box): Promise<Canvas> {
  const left = Math.min(canvas.width - 1, Math.round(part.x * canvas.width));
  const top = Math.min(canvas.height - 1, Math.round(part.y * canvas.height));
  const width = Math.max(1, Math.min(canvas.width - left, Math.round(part.width * canvas.width)));
  const height = Math.max(
    1,
    Math.min(canvas.height - top, Math.round(part.height * canvas.height)),
  );
  if (width === canvas.width && height === canvas.height) return canvas;
  if (canvas.depth !== 8) throw new Error('Expected 8 bits a sample for paper.');
  const { buffer, byteOffset, byteLength } = await sharpOf(canvas)
    .extract({ left, top, width, height })
    .raw()
    .toBuffer();
  return { ...canvas, width, height, data: new Uint8ClampedArray(buffer, byteOffset, byteLength) };
}
