import { unlink } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { DEFAULT_DELIVERY, deliveryFileSchema, type DeliveryRule } from '#core/contract/delivery';
import { TYPE_FACTS } from '#core/delivery/typeFacts';
import { outputName } from '#core/delivery/namePattern';
import { success, type Result } from '#core/result';
import { MAX_PHOTO_PIXELS, photosAtOnce } from '#server/imaging/limits';
import { cameraFacts, probePhoto } from '#server/imaging/photo/probe';
import type { Imaging } from '#server/imaging/pool/imaging';
import type { RenderedOutput } from '#server/imaging/pass/renderJob';
import { placeOutput, RunKnowledge } from '#server/runs/placeOutput';
import { temporaryName } from '#server/storage/atomicWrite';
import { failedReport, type Report } from './commands/applyReport.ts';
import {
  NAME_OF_DEFAULTS,
  readJson,
  readMarks,
  type MarkOption,
  type MarkWithPreset,
  type Named,
  type PhotoInput,
} from './inputs.ts';
import { wholeNumber } from './wholeNumber.ts';

/** One photo through all deliveries of a call: rendered at once, then named one after the other. */

export interface ExportOptions {
  readonly marks: readonly MarkOption[];
  readonly delivery: readonly string[];
  readonly json?: true;
  /** Open the outputs again and compare them. */
  readonly verify: boolean;
  /** Photos at once; a text, as it was given. */
  readonly jobs?: string;
}

/** A photo with all deliveries it goes out by: it is decoded once for them. */
export interface Task {
  readonly photo: PhotoInput;
  readonly number: number;
  /** Where its outputs go. */
  readonly folder: string;
  /** The same as it is printed. */
  readonly out: string;
}

/** What is the same for all photos of a call. */
export interface ExportCall {
  /** The lowest first. */
  readonly marks: readonly MarkWithPreset[];
  readonly deliveries: readonly Named<DeliveryRule>[];
  readonly imaging: Imaging;
  readonly knowledge: RunKnowledge;
  /** Readability is printed, so it is measured also where nothing is chosen by it. */
  readonly measures: boolean;
  readonly readsBack: boolean;
}

/** Reads what a call names. Files that were given are never written over. */
export async function openCall(options: ExportOptions, imaging: Imaging): Promise<ExportCall> {
  const deliveries = await readDeliveries(options.delivery);
  const marks = await readMarks(options.marks, imaging);
  const knowledge = new RunKnowledge();
  const given = options.marks.flatMap(({ mark, preset }) => [mark, preset ?? []].flat());
  for (const path of [...given, ...options.delivery]) await knowledge.sources.add(path);
  const measures = options.json ?? false;
  return { marks, deliveries, imaging, knowledge, measures, readsBack: options.verify };
}

const MOST_JOBS = 64;

/** Photos in work at once. */
export function jobsOf(text: string | undefined): number {
  return wholeNumber('--jobs', text, photosAtOnce(), 1, MOST_JOBS);
}

/** An output that was rendered and has no name yet. */
export interface Made {
  readonly temporaryPath: string;
  readonly output: RenderedOutput;
  /** As name patterns write it; empty where it is not known. */
  readonly date: string;
}

/** @returns one for each delivery */
export async function renderOne(
  { photo, number, folder }: Task,
  context: ExportCall,
): Promise<Result<Made>[]> {
  const outputs = context.deliveries.map(({ value: deliveryRule }) => ({
    marks: context.marks.map(({ preset }, mark) => {
      return { rule: preset.value, adjustment: {}, mark };
    }),
    deliveryRule,
    temporaryPath: join(folder, temporaryName(`${process.pid}-${nextTemporary()}`)),
  }));
  const { measures, readsBack } = context;
  const artworks = context.marks.map(({ mark }) => mark);
  const named = { name: basename(photo.path), number, batch: photo.batch };
  const job = { source: photo.path, named, measures, readsBack, outputs };
  const rendered = await context.imaging.render(job, artworks, MAX_PHOTO_PIXELS);
  const probed = await probePhoto(photo.path);
  const { capturedAt } = await cameraFacts(photo.path, probed.ok ? probed.value.metadata : {});
  const date = capturedAt?.slice(0, 'YYYY-MM-DD'.length) ?? '';
  return Promise.all(
    rendered.map(async (made, index) => {
      const { temporaryPath } = outputs[index];
      if (made.ok) return success({ temporaryPath, output: made.value, date });
      await unlink(temporaryPath).catch(() => undefined);
      return made;
    }),
  );
}

export async function placeOne(
  { photo, number, folder, out }: Task,
  delivery: Named<DeliveryRule>,
  made: Result<Made>,
  context: ExportCall,
  intend?: (output: string) => void,
): Promise<Report> {
  if (!made.ok) return failedReport(made.reason);
  const { temporaryPath, date, output: rendered } = made.value;
  const base = outputName(delivery.value.name_pattern, {
    name: basename(photo.path, extname(photo.path)),
    ...{ number, date, batch: photo.batch },
    preset: context.marks[0].preset.name,
    delivery: delivery.name,
    ...rendered.frame,
  });
  const extension = TYPE_FACTS[delivery.value.file.type].ending;
  const place = { folder, base, extension, existing: delivery.value.existing };
  const placed = await placeOutput(
    ...([temporaryPath, place, context.knowledge, photo.path, intend] as const),
  );
  if (placed.status !== 'written') await unlink(temporaryPath).catch(() => undefined);
  if (placed.status === 'failed') return failedReport(placed.reason);
  const output = join(out, basename(placed.output));
  return { status: placed.status, output, error: null, rendered };
}

let temporaries = 0;
function nextTemporary(): number {
  return ++temporaries;
}

async function readDeliveries(paths: readonly string[]): Promise<Named<DeliveryRule>[]> {
  if (paths.length === 0) return [{ name: NAME_OF_DEFAULTS, value: DEFAULT_DELIVERY }];
  return Promise.all(
    paths.map(async (path) => {
      const file = await readJson(path, deliveryFileSchema);
      return { name: file.name, value: file };
    }),
  );
}
