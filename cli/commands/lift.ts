import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { DEFAULT_LIFT, QUARTER_TURNS, type QuarterTurn } from '#core/contract/lift';
import type { LiftSettings } from '#core/contract/lift';
import { NO_INK } from '#core/ink/lift';
import { runsUpOrDown } from '#core/ink/turnedLift';
import type { Box, Size } from '#core/placement/geometry';
import type { Result } from '#core/result';
import { liftFile } from '#server/imaging/lift/liftFile';
import { isPdf } from '#server/imaging/pdf/isPdf';
import { CallError, EXIT } from '../exit.ts';
import { readGiven } from '../inputs.ts';
import { checkOutput, writeOutput } from '../outputs.ts';

export interface LiftOptions {
  readonly out: string;
  readonly svg?: string;
  readonly turn?: string;
  readonly crop?: string;
  readonly page?: string;
  readonly json?: boolean;
  readonly force?: true;
}

/** Ink on paper → transparent artwork (contract, section 6). */
export async function lift(scan: string, options: LiftOptions): Promise<number> {
  const turn = turnOf(options.turn ?? '0');
  const crop = options.crop === undefined ? null : cropOf(options.crop);
  if (!/\.png$/i.test(options.out)) throw new CallError('--out: expected a .png file.');
  if (options.svg !== undefined && !/\.svg$/i.test(options.svg)) {
    throw new CallError('--svg: expected a .svg file.');
  }
  const writing = { sources: [scan], force: options.force ?? false };
  if (options.svg !== undefined && resolve(options.svg) === resolve(options.out)) {
    throw new CallError('--svg: expected another file than --out.');
  }
  const bytes = await readGiven(scan);
  await checkOutput(options.out, writing);
  if (options.svg !== undefined) await checkOutput(options.svg, writing);
  const page = pageOf(options.page ?? '1');
  const folder = isPdf(bytes) ? await mkdtemp(join(tmpdir(), 'light-crest-')) : null;
  try {
    const path = folder ? await drawnPage(bytes, page, folder) : scan;
    const lifted = await liftFile(path, (pixels) => settingsFor(pixels, turn, crop));
    if (!lifted.ok) return refused(scan, lifted);
    const { png, svg, inkBox, evenness, specksRemoved, cutsInk } = lifted.value;
    await writeOutput(options.out, png, writing);
    if (options.svg !== undefined && svg !== null) await writeOutput(options.svg, svg, writing);
    if (cutsInk) {
      process.stderr.write(
        `light-crest: ${scan}: ink runs on beyond what was taken for paper and is cut off there.\n`,
      );
    }
    if (options.turn === undefined && runsUpOrDown(inkBox)) {
      process.stderr.write(
        `light-crest: ${scan}: the writing runs up or down; --turn 90 or --turn 270 lays it level.\n`,
      );
    }
    if (options.json) {
      const report = {
        output: options.out,
        ink_box: inkBox,
        width: inkBox.width,
        height: inkBox.height,
        paper_evenness: Number(evenness.toFixed(4)),
        specks_removed: specksRemoved,
      };
      process.stdout.write(`${JSON.stringify(report)}\n`);
    } else {
      process.stderr.write(
        `light-crest: ${options.out}, ${inkBox.width} × ${inkBox.height} px of ink, ` +
          `${specksRemoved} specks removed.\n`,
      );
    }
    return EXIT.done;
  } finally {
    if (folder) await rm(folder, { recursive: true, force: true });
  }
}

/** A scan that holds no ink has failed; one that cannot be read is a wrong file given. */
function refused(scan: string, { reason }: { readonly reason: string }): number {
  const name = basename(scan);
  const sentence = reason.startsWith(name) ? reason : `${name}: ${reason}`;
  process.stderr.write(`light-crest: ${sentence}\n`);
  return reason === NO_INK ? EXIT.someFailed : EXIT.wrongCall;
}

async function drawnPage(bytes: Uint8Array, page: number, folder: string): Promise<string> {
  const { pdfPicture } = await import('#server/imaging/pdf/pdf');
  const picture: Result<Buffer> = await pdfPicture(bytes, page, {
    longSidePx: null,
    onPaper: true,
  });
  if (!picture.ok) throw new CallError(picture.reason);
  const path = join(folder, 'page.png');
  await writeFile(path, picture.value);
  return path;
}

/** Pixels of the call become the fractions of the settings; a crop beyond the sheet is a wrong call. */
function settingsFor(photo: Size, turn: QuarterTurn, crop: Box | null): LiftSettings {
  const lies = turn % 180 !== 0;
  const sheet = lies ? { width: photo.height, height: photo.width } : photo;
  if (!crop) return { ...DEFAULT_LIFT, turn };
  if (crop.x + crop.width > sheet.width || crop.y + crop.height > sheet.height) {
    throw new CallError(
      `--crop: expected a part of the ${sheet.width} × ${sheet.height} px sheet, found one beyond it.`,
    );
  }
  return {
    ...DEFAULT_LIFT,
    turn,
    crop: {
      x: crop.x / sheet.width,
      y: crop.y / sheet.height,
      width: crop.width / sheet.width,
      height: crop.height / sheet.height,
    },
  };
}

function turnOf(text: string): QuarterTurn {
  const turn = QUARTER_TURNS.find((known) => String(known) === text);
  if (turn === undefined) {
    throw new CallError(`--turn: expected ${QUARTER_TURNS.join(', ')}, found ${text}.`);
  }
  return turn;
}

function cropOf(text: string): Box {
  const numbers = text.split(',').map(Number);
  const [x, y, width, height] = numbers;
  const isWhole = numbers.length === 4 && numbers.every((number) => Number.isInteger(number));
  if (!isWhole || x < 0 || y < 0 || width < 1 || height < 1) {
    throw new CallError(`--crop: expected x,y,w,h in whole pixels, found ${text}.`);
  }
  return { x, y, width, height };
}

function pageOf(text: string): number {
  const page = Number(text);
  if (Number.isInteger(page) && page > 0) return page;
  throw new CallError(`--page: expected a page from 1, found ${text}.`);
}
