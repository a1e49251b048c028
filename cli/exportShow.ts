import { basename, extname, join } from 'node:path';
import type { DeliveryRule } from '#core/contract/delivery';
import { failure, type Result } from '#core/result';
import type { DescribedPhoto } from '#server/imaging/pool/imagingTasks';
import { existingOf } from '#server/runs/existingOf';
import { temporaryName } from '#server/storage/atomicWrite';
import { documentName } from '#server/runs/sheetJob';
import { failedReport, type Report } from './commands/applyReport.ts';
import type { ExportCall, Task } from './exportPhoto.ts';
import type { Named } from './inputs.ts';
import { type Ready, type PlacedDocument, runOf, named, lineOf } from './togetherParts.ts';

/** Writes the show and gives it its name. @returns a report for each photo */
export async function asShow(
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
