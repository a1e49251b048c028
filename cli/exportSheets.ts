import { basename, join } from 'node:path';
import type { DeliveryRule } from '#core/contract/delivery';
import type { Result } from '#core/result';
import { sheetsWithPhotos } from '#core/sheet/photoOnSheet';
import type { DescribedPhoto } from '#server/imaging/pool/imagingTasks';
import type { SheetJob, SheetPhotoJob } from '#server/imaging/sheet/sheetJob';
import type { placeOutput } from '#server/runs/placeOutput';
import { temporaryName } from '#server/storage/atomicWrite';
import { documentName } from '#server/runs/sheetJob';
import { failedReport, type Report } from './commands/applyReport.ts';
import type { ExportCall, Task } from './exportPhoto.ts';
import type { Named } from './inputs.ts';
import {
  USUAL_SIZE,
  type Ready,
  type PlacedDocument,
  runOf,
  named,
  lineOf,
} from './togetherParts.ts';

/** Writes the documents and gives them their names. @returns a report for each photo */
export async function onSheets(
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
