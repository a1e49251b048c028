import pLimit from 'p-limit';
import { Imaging } from '#server/imaging/pool/imaging';
import { EXIT } from '../exit.ts';
import {
  jobsOf,
  openCall,
  placeOne,
  renderOne,
  type ExportCall,
  type ExportOptions,
  type Task,
} from '../exportPhoto.ts';
import { exportTogether } from '../exportTogether.ts';
import { findPhotos } from '../inputs.ts';
import { Progress } from '../progress.ts';
import { printReport } from './applyReport.ts';
import { openOutFolder } from './outFolder.ts';

export interface ApplyOptions extends ExportOptions {
  readonly out: string;
}

export async function apply(named: readonly string[], options: ApplyOptions): Promise<number> {
  const imaging = new Imaging();
  try {
    const photos = await findPhotos(named);
    const call = await openCall(options, imaging);
    const folder = await openOutFolder(options.out);
    for (const { path } of photos) await call.knowledge.sources.add(path);
    const tasks = photos.map((photo, index): Task => {
      return { photo, number: index + 1, folder, out: options.out };
    });
    const { json = false } = options;
    const atOnce = jobsOf(options.jobs);
    const isEach = ({ value }: (typeof call.deliveries)[number]) => value.kind === 'files';
    const each = { ...call, deliveries: call.deliveries.filter(isEach) };
    let failed = each.deliveries.length > 0 ? await runTasks(tasks, each, atOnce, json) : 0;
    for (const delivery of call.deliveries.filter((one) => !isEach(one))) {
      failed += await exportTogether(tasks, delivery, call, atOnce, json);
    }
    return failed > 0 ? EXIT.someFailed : EXIT.done;
  } finally {
    imaging.close();
  }
}

/** @returns how many outputs failed */
async function runTasks(
  tasks: readonly Task[],
  call: ExportCall,
  atOnce: number,
  json: boolean,
): Promise<number> {
  const { deliveries } = call;
  const progress = new Progress(tasks.length * deliveries.length);
  const limit = pLimit(atOnce);
  let failed = 0;
  // Results are printed in the order of the call, each as soon as those before it are there.
  let printed: Promise<void> = Promise.resolve();
  let placing: Promise<unknown> = Promise.resolve();
  await Promise.all(
    tasks.flatMap((task) => {
      const rendering = limit(() => renderOne(task, call));
      const reports = deliveries.map((delivery, index) => {
        // In the order of the call, so that two photos of one name get the same two names each time.
        const report = placing.then(async () =>
          placeOne(task, delivery, (await rendering)[index], call),
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
  return failed;
}
