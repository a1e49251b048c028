import { unlink } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import pLimit from 'p-limit';
import { DEFAULT_DELIVERY, deliveryFileSchema, type DeliveryRule } from '#core/contract/delivery';
import { TYPE_FACTS } from '#core/delivery/typeFacts';
import { outputName } from '#core/delivery/namePattern';
import { success, type Result } from '#core/result';
import { MAX_PHOTO_PIXELS, photosAtOnce } from '#server/imaging/limits';
import { cameraFacts, probePhoto } from '#server/imaging/photo/probe';
import { Imaging } from '#server/imaging/pool/imaging';
import type { RenderedOutput } from '#server/imaging/pass/renderJob';
import { placeOutput, RunKnowledge } from '#server/runs/placeOutput';
import { temporaryName } from '#server/storage/atomicWrite';
import { CallError, EXIT } from '../exit.ts';
import { failedReport, printReport, type Report } from './applyReport.ts';
import { openOutFolder } from './outFolder.ts';
import {
  findPhotos,
  NAME_OF_DEFAULTS,
  readJson,
  readMarks,
  type MarkOption,
  type MarkWithPreset,
  type Named,
  type PhotoInput,
} from '../inputs.ts';
import { Progress } from '../progress.ts';

export interface ApplyOptions {
  readonly marks: readonly MarkOption[];
  readonly delivery: readonly string[];
  readonly out: string;
  readonly json?: true;
  /** Open the outputs again and compare them. */
  readonly verify: boolean;
  /** Photos at once; a text, as it was given. */
  readonly jobs?: string;
}

/** A photo with all deliveries it goes out by: it is decoded once for them. */
interface Task {
  readonly photo: PhotoInput;
  readonly number: number;
}

interface Context {
  /** The lowest first. */
  readonly marks: readonly MarkWithPreset[];
  readonly deliveries: readonly Named<DeliveryRule>[];
  readonly folder: string;
  /** As given, for the paths that are printed. */
  readonly out: string;
  readonly imaging: Imaging;
  readonly knowledge: RunKnowledge;
  /** Photos in work at once. */
  readonly atOnce: number;
  /** Readability is printed, so it is measured also where nothing is chosen by it. */
  readonly measures: boolean;
  readonly readsBack: boolean;
}

export async function apply(named: readonly string[], options: ApplyOptions): Promise<number> {
  const imaging = new Imaging();
  try {
    const photos = await findPhotos(named);
    const deliveries = await readDeliveries(options.delivery);
    const marks = await readMarks(options.marks, imaging);
    const folder = await openOutFolder(options.out);
    const knowledge = new RunKnowledge();
    const given = [
      options.marks.flatMap(({ mark, preset }) => [mark, preset ?? []].flat()),
      options.delivery,
      photos.map(({ path }) => path),
    ];
    for (const path of given.flat()) await knowledge.sources.add(path);
    const measures = options.json ?? false;
    const atOnce = options.jobs === undefined ? photosAtOnce() : jobsOf(options.jobs);
    const context = {
      ...{
        marks,
        deliveries,
        folder,
        out: options.out,
        imaging,
        knowledge,
        measures,
        atOnce,
        readsBack: options.verify,
      },
    };
    const tasks = photos.map((photo, index) => ({ photo, number: index + 1 }));
    return await runTasks(tasks, context, options.json ?? false);
  } finally {
    imaging.close();
  }
}

const MOST_JOBS = 64;

function jobsOf(text: string): number {
  const jobs = Number(text);
  if (Number.isInteger(jobs) && jobs >= 1 && jobs <= MOST_JOBS) return jobs;
  throw new CallError(
    `Expected a whole number from 1 to ${MOST_JOBS} for --jobs, found "${text}".`,
  );
}

async function runTasks(tasks: readonly Task[], context: Context, json: boolean): Promise<number> {
  const { deliveries } = context;
  const progress = new Progress(tasks.length * deliveries.length);
  const limit = pLimit(context.atOnce);
  let failed = 0;
  // Results are printed in the order of the call, each as soon as those before it are there.
  let printed: Promise<void> = Promise.resolve();
  let placing: Promise<unknown> = Promise.resolve();
  await Promise.all(
    tasks.flatMap((task) => {
      const rendering = limit(() => renderOne(task, context));
      const reports = deliveries.map((delivery, index) => {
        // In the order of the call, so that two photos of one name get the same two names each time.
        const report = placing.then(async () =>
          placeOne(task, delivery, (await rendering)[index], context),
        );
        placing = report;
        printed = printed.then(async () => {
          const done = await report;
          if (done.status === 'failed') failed++;
          printReport(task.photo, delivery.name, done, json);
        });
        return report.finally(() => progress.step());
      });
      return [...reports, printed];
    }),
  );
  progress.end();
  return failed > 0 ? EXIT.someFailed : EXIT.done;
}

/** An output that was rendered and has no name yet. */
interface Made {
  readonly temporaryPath: string;
  readonly output: RenderedOutput;
  /** As name patterns write it; empty where it is not known. */
  readonly date: string;
}

/** @returns one for each delivery */
async function renderOne({ photo, number }: Task, context: Context): Promise<Result<Made>[]> {
  const outputs = context.deliveries.map(({ value: deliveryRule }) => ({
    marks: context.marks.map(({ preset }, mark) => {
      return { rule: preset.value, adjustment: {}, mark };
    }),
    deliveryRule,
    temporaryPath: join(context.folder, temporaryName(`${process.pid}-${nextTemporary()}`)),
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

async function placeOne(
  { photo, number }: Task,
  delivery: Named<DeliveryRule>,
  made: Result<Made>,
  context: Context,
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
  const place = { folder: context.folder, base, extension, existing: delivery.value.existing };
  const placed = await placeOutput(temporaryPath, place, context.knowledge, photo.path);
  if (placed.status !== 'written') await unlink(temporaryPath).catch(() => undefined);
  if (placed.status === 'failed') return failedReport(placed.reason);
  const output = join(context.out, basename(placed.output));
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
