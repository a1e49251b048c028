import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, extname, join } from 'node:path';
import pLimit from 'p-limit';
import type { DeliveryRule } from '#core/contract/delivery';
import { outputName } from '#core/delivery/namePattern';
import type { Size } from '#core/placement/geometry';
import { failure, success, type Result } from '#core/result';
import { preparation, sheetsWithPhotos } from '#core/sheet/photoOnSheet';
import { photosASheet } from '#core/sheet/planSheets';
import { MAX_PHOTO_PIXELS } from '#server/imaging/limits';
import type { RenderedOutput } from '#server/imaging/pass/renderJob';
import type { DescribedPhoto } from '#server/imaging/pool/imagingTasks';
import type { SheetJob, SheetPhotoJob } from '#server/imaging/sheet/sheetJob';
import { placeOutput } from '#server/runs/placeOutput';
import { existingOf } from '#server/runs/existingOf';
import { ruleOfPhoto, type OutputRule } from '#server/runs/outputRule';
import { documentName } from '#server/runs/sheetJob';
import { temporaryName } from '#server/storage/atomicWrite';
import { failedReport, printReport, type Report } from './commands/applyReport.ts';
import type { ExportCall, Task } from './exportPhoto.ts';
import type { Named } from './inputs.ts';
import { Progress } from './progress.ts';

/** All photos of a call through a delivery that puts them together: each is made ready, then the sheets. */

/** Stands in for the size of a photo that cannot be opened; its place stays empty. */
const USUAL_SIZE: Size = Object.freeze({ width: 3, height: 2 });

/** A photo that was made ready. */
interface Ready {
  readonly path: string;
  readonly rendered: RenderedOutput;
}

/** Sheets, or a show. @returns how many photos failed */
export async function exportTogether(
  tasks: readonly Task[],
  delivery: Named<DeliveryRule>,
  call: ExportCall,
  atOnce: number,
  json: boolean,
): Promise<number> {
  const folder = await mkdtemp(join(tmpdir(), 'light-crest-ready-'));
  try {
    const limit = pLimit(atOnce);
    const progress = new Progress(tasks.length);
    const described = await Promise.all(
      tasks.map(({ photo }) => limit(() => call.imaging.describe(photo.path))),
    );
    const sizes = described.map((one) => (one.ok ? one.value.size : USUAL_SIZE));
    const ready = await Promise.all(
      tasks.map((task, at) =>
        limit(() => madeReady(task, at, described[at], sizes, folder, delivery, call)).finally(() =>
          progress.step(),
        ),
      ),
    );
    const put = delivery.value.kind === 'show' ? asShow : onSheets;
    const reports = await put(tasks, described, ready, delivery, call);
    progress.end();
    reports.forEach((report, at) => printReport(tasks[at].photo, delivery.name, report, json));
    return reports.filter(({ status }) => status === 'failed').length;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function madeReady(
  { photo, number }: Task,
  at: number,
  described: Result<DescribedPhoto>,
  sizes: readonly Size[],
  folder: string,
  { value: rule }: Named<DeliveryRule>,
  { imaging, marks, measures }: ExportCall,
): Promise<Result<Ready>> {
  if (!described.ok) return described;
  const how = howToPrint(rule, at, sizes);
  if (!how.ok) return how;
  const temporaryPath = join(folder, String(number));
  const output = {
    marks: marks.map(({ preset }, mark) => ({ rule: preset.value, adjustment: {}, mark })),
    ...{ deliveryRule: how.value.rule, temporaryPath },
    ...(how.value.prepared ? { prepared: how.value.prepared } : {}),
  };
  const named = { name: basename(photo.path), number, batch: photo.batch };
  const job = { source: photo.path, named, measures, outputs: [output] };
  const artworks = marks.map(({ mark }) => mark);
  const [made] = await imaging.render(job, artworks, MAX_PHOTO_PIXELS);
  return made.ok ? { ok: true, value: { path: temporaryPath, rendered: made.value } } : made;
}

function howToPrint(rule: DeliveryRule, at: number, sizes: readonly Size[]): Result<OutputRule> {
  if (rule.kind === 'show') return success({ rule: ruleOfPhoto(rule) });
  const first = at - (at % photosASheet(rule.sheet));
  return preparation(rule, sizes[at], at, sizes[first]);
}

/** Writes the show and gives it its name. @returns a report for each photo */
async function asShow(
  tasks: readonly Task[],
  described: readonly Result<DescribedPhoto>[],
  ready: readonly Result<Ready>[],
  delivery: Named<DeliveryRule>,
  { imaging, marks, knowledge }: ExportCall,
): Promise<Report[]> {
  const { value: rule } = delivery;
  const [{ photo, folder, out }] = tasks;
  const photos = tasks.flatMap((task, at) => {
    const made = ready[at];
    const name = basename(task.photo.path, extname(task.photo.path));
    const caption = lineOf(rule.show.caption, task, described[at], delivery, marks[0].preset.name);
    return made.ok ? [{ path: made.value.path, name, caption }] : [];
  });
  const place = {
    ...documentName(runOf(photo.batch, marks[0].preset.name, delivery, folder), 1, 0, 1),
    ...{ folder, existing: existingOf(rule) },
  };
  const temporaryPath = join(folder, temporaryName(`${process.pid}-show`));
  const mark = rule.mark ? { rule: marks[0].preset.value, mark: 0 } : null;
  const job = { rule, name: photo.batch, photos, mark, temporaryPath };
  const written: Result<PlacedDocument> =
    photos.length === 0
      ? failure('None of the photos could be made.')
      : await named(
          await imaging.writeShow(
            job,
            marks.map((one) => one.mark),
          ),
          ...([temporaryPath, place, knowledge, photo.path] as const),
        );
  return ready.map((made) => {
    if (!made.ok) return failedReport(made.reason);
    if (!written.ok) return failedReport(written.reason);
    const output = join(out, basename(written.value.output));
    return { status: written.value.status, output, error: null, rendered: made.value.rendered };
  });
}

function runOf(
  batchName: string,
  presetName: string,
  { name, value: rule }: Named<DeliveryRule>,
  folder: string,
) {
  const deliveries = [{ deliveryId: null, name, rule, folder, makesFolder: false }];
  return { batchName, presetName, deliveries };
}

/** Writes the documents and gives them their names. @returns a report for each photo */
async function onSheets(
  tasks: readonly Task[],
  described: readonly Result<DescribedPhoto>[],
  ready: readonly Result<Ready>[],
  delivery: Named<DeliveryRule>,
  call: ExportCall,
): Promise<Report[]> {
  const { value: rule } = delivery;
  const photos = tasks.map((task, at) =>
    sheetPhoto(task, described[at], ready[at], delivery, call),
  );
  const given = photos.map(({ size, path }) => ({ size, isThere: path !== null }));
  const sheets = sheetsWithPhotos(rule.sheet, given);
  const failAll = (reason: string): Report[] =>
    ready.map((one) => failedReport(one.ok ? reason : one.reason));
  if (!sheets.ok) return failAll(sheets.reason);
  if (sheets.value.length === 0) return failAll('None of the photos could be made.');
  const [{ photo, folder, out }] = tasks;
  const margin = call.marks.map(({ preset }, mark) => {
    return { rule: preset.value, adjustment: {}, mark };
  });
  const job: Omit<SheetJob, 'files'> = {
    ...{ rule, title: `${photo.batch}, ${delivery.name}`, photos },
    margin: rule.mark && rule.sheet.mark_on !== 'photo' ? margin : [],
  };
  const run = runOf(photo.batch, call.marks[0].preset.name, delivery, folder);
  const reports = new Map<number, Report>();
  const isOne = rule.sheet.as === 'pdf';
  const count = sheets.value.length;
  for (let at = 0; at < (isOne ? 1 : count); at++) {
    const place = {
      ...documentName(run, 1, isOne ? 0 : at + 1, count),
      ...{ folder, existing: rule.existing },
    };
    const written = await writeOne(job, isOne ? null : at, place, photo.path, call);
    const on = isOne ? sheets.value : [sheets.value[at]];
    for (const { index } of on.flatMap((one) => one.photos)) {
      const made = ready[index];
      if (!made.ok) reports.set(index, failedReport(made.reason));
      else if (!written.ok) reports.set(index, failedReport(written.reason));
      else {
        const output = join(out, basename(written.value.output));
        const { rendered } = made.value;
        reports.set(index, { status: written.value.status, output, error: null, rendered });
      }
    }
  }
  return ready.map((one, at) => {
    // On a sheet that was left out, since nothing of it could be made.
    return reports.get(at) ?? failedReport(one.ok ? 'It is on no sheet.' : one.reason);
  });
}

type PlacedDocument = { readonly status: 'written' | 'skipped'; readonly output: string };

async function writeOne(
  job: Omit<SheetJob, 'files'>,
  sheet: number | null,
  place: Parameters<typeof placeOutput>[1],
  source: string,
  { imaging, marks, knowledge }: ExportCall,
): Promise<Result<PlacedDocument>> {
  const what = `${process.pid}-sheet-${sheet ?? 'all'}`;
  const temporaryPath = join(place.folder, temporaryName(what));
  const artworks = marks.map(({ mark }) => mark);
  const written = await imaging.writeSheets(
    { ...job, files: [{ sheet, temporaryPath }] },
    artworks,
  );
  return named(written, temporaryPath, place, knowledge, source);
}

/** A document that was written gets its name. */
async function named(
  written: Result<unknown>,
  temporaryPath: string,
  place: Parameters<typeof placeOutput>[1],
  knowledge: ExportCall['knowledge'],
  source: string,
): Promise<Result<PlacedDocument>> {
  if (!written.ok) return written;
  const placed = await placeOutput(temporaryPath, place, knowledge, source);
  if (placed.status !== 'written') await rm(temporaryPath, { recursive: true, force: true });
  return placed.status === 'failed' ? failure(placed.reason) : { ok: true, value: placed };
}

function lineOf(
  pattern: string | null,
  { photo, number }: Task,
  described: Result<DescribedPhoto>,
  delivery: Named<DeliveryRule>,
  preset: string,
): string {
  if (pattern === null) return '';
  const { size, capturedAt } = described.ok
    ? described.value
    : { size: USUAL_SIZE, capturedAt: null };
  return outputName(pattern, {
    name: basename(photo.path, extname(photo.path)),
    ...{ number, batch: photo.batch, delivery: delivery.name, preset, ...size },
    date: capturedAt?.slice(0, 'YYYY-MM-DD'.length) ?? '',
  });
}

function sheetPhoto(
  task: Task,
  described: Result<DescribedPhoto>,
  ready: Result<Ready>,
  delivery: Named<DeliveryRule>,
  { marks }: ExportCall,
): SheetPhotoJob {
  const size = described.ok ? described.value.size : USUAL_SIZE;
  const pattern = delivery.value.sheet.caption?.pattern ?? null;
  const caption = lineOf(pattern, task, described, delivery, marks[0].preset.name);
  if (!ready.ok) return { size, path: null, frame: size, marks: [], caption, words: null };
  const { path, rendered } = ready.value;
  return {
    ...{ size, path, caption, frame: rendered.frame, words: rendered.words ?? null },
    marks: rendered.marks.map(({ placement }, mark) => ({ placement, mark })),
  };
}
