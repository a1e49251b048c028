import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import pLimit from 'p-limit';
import type { DeliveryRule } from '#core/contract/delivery';
import type { Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import { preparation } from '#core/sheet/photoOnSheet';
import { photosASheet } from '#core/sheet/planSheets';
import { MAX_PHOTO_PIXELS } from '#server/imaging/limits';
import type { DescribedPhoto } from '#server/imaging/pool/imagingTasks';
import { ruleOfPhoto, type OutputRule } from '#server/runs/outputRule';
import { printReport } from './commands/applyReport.ts';
import type { ExportCall, Task } from './exportPhoto.ts';
import { onSheets } from './exportSheets.ts';
import { asShow } from './exportShow.ts';
import type { Named } from './inputs.ts';
import { Progress } from './progress.ts';
import { USUAL_SIZE, type Ready } from './togetherParts.ts';

/** All photos of a call through a delivery that puts them together: each is made ready, then the sheets. */

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
