import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { RunDetailView } from '#core/contract/http';
import { openPdf } from '#tests/helpers/readPdf';
import { FAIR_REASONS } from './fairReasons.ts';
import { PHOTOS_A_SHEET, type World } from './world.ts';

/** What runs make of all their photos together: there, whole, with each photo, and of one run alone. */
export async function checkDocuments(
  { data }: World,
  details: readonly RunDetailView[],
  problems: string[],
): Promise<string[]> {
  const paths: string[] = [];
  const toBeTriedAgain = new Set<string>();
  for (const { run, items } of details) {
    const missing = run.deliveries.flatMap(({ kind }, at) => {
      const isThere = kind === 'files' || run.documents.some(({ delivery }) => delivery === at + 1);
      return isThere ? [] : [at + 1];
    });
    if (run.state === 'done' && missing.length > 0)
      problems.push(
        `run ${run.id} is done without the documents of delivery ${missing.join(', ')}`,
      );
    for (const { delivery, outputName, error } of run.documents) {
      const { kind, folder } = run.deliveries[delivery - 1];
      if (error !== null) {
        toBeTriedAgain.add(`${run.id}`);
        if (!FAIR_REASONS.test(error)) problems.push(`run ${run.id}: ${kind} failed: ${error}`);
      }
      if (outputName === null) continue;
      const path = join(folder, outputName);
      if (paths.includes(path)) problems.push(`${path} was given twice`);
      paths.push(path);
      const photos = items.filter(
        (item) => item.delivery === delivery && item.status === 'written',
      ).length;
      const problem = await (kind === 'sheet' ? sheetProblem : showProblem)(path, photos);
      if (problem) problems.push(`${path} of run ${run.id}: ${problem}`);
    }
  }
  const kept = readdirSync(join(data, 'prepared')).filter((name) => !toBeTriedAgain.has(name));
  if (kept.length > 0) problems.push(`photos made ready for runs ${kept.join(', ')} are left`);
  return paths;
}

async function sheetProblem(path: string, photos: number): Promise<string | null> {
  try {
    const pdf = await openPdf(path);
    const { pages } = pdf;
    let images = 0;
    for (let number = 1; number <= pages; number++)
      images += (await pdf.page(number)).images.length;
    await pdf.close();
    const isWhole = images === photos && pages === Math.ceil(photos / PHOTOS_A_SHEET);
    return isWhole ? null : `${images} photos on ${pages} pages, not ${photos}`;
  } catch (error) {
    return `not whole: ${(error as Error).message}`;
  }
}

async function showProblem(path: string, photos: number): Promise<string | null> {
  try {
    const made = readdirSync(join(path, 'photos')).length;
    const isWhole = made === photos && readdirSync(path).includes('index.html');
    return Promise.resolve(isWhole ? null : `${made} photos, not ${photos}`);
  } catch (error) {
    return `not whole: ${(error as Error).message}`;
  }
}
