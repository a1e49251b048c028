import { unlink } from 'node:fs/promises';
import type { DeliveryRule } from '#core/contract/delivery';
import { failure, success, type Result } from '#core/result';
import { MM_AN_INCH } from '#core/sheet/photoOnSheet';
import { photosASheet } from '#core/sheet/planSheets';
import type { NewItem } from '../db/runItemRows.ts';
import { proxyOf } from './proxyOf.ts';
import { ArtworkList, MARK_IS_GONE } from './artworkList.ts';
import { plannedRule } from './deliveryPlan.ts';
import type { ExportParts } from './exportParts.ts';
import { sourceProblem } from './exportPlaces.ts';
import { photoResult } from './exportPhoto.ts';
import { marksOfItem } from './marksOfItem.ts';
import type { PlannedRun } from './planRun.ts';
import { runSheets, type SheetItem } from './sheetJob.ts';

/** Of a sheet on the screen, px. */
const LONG_SIDE_PX = 1_100;
const LEAST_DPI = 24;

/**
 * A sheet of a run that has not begun, as it will come out, in the size of a screen.
 *
 * @param number of the delivery in the run, from 1
 * @param at of the sheet, from 0
 * @returns where a JPEG of it lies; whoever asks takes it away
 */
export async function sheetPreview(
  { run: whole, items, view }: PlannedRun,
  number: number,
  at: number,
  parts: ExportParts,
): Promise<Result<string>> {
  const delivery = whole.deliveries.at(number - 1);
  const paper = view.deliveries.at(number - 1)?.paper;
  if (delivery?.rule.kind !== 'sheet' || !paper) return failure('This delivery has no sheets.');
  const { sheet } = delivery.rule;
  const longMm = Math.max(paper.width, paper.height) + 2 * paper.room;
  const dpi = Math.max(LEAST_DPI, Math.round((LONG_SIDE_PX / longMm) * MM_AN_INCH));
  const rule: DeliveryRule = {
    ...delivery.rule,
    sheet: { ...sheet, as: 'jpeg', dpi: Math.min(dpi, sheet.dpi) },
  };
  const run = { ...whole, deliveries: whole.deliveries.map((one) => ({ ...one, rule })) };
  const first = at * photosASheet(sheet);
  const own = items
    .filter((item) => item.delivery === number)
    .slice(first, first + photosASheet(sheet));
  if (own.length === 0) return failure('This sheet has no photos.');
  const made = await Promise.all(own.map((item) => prepared(run, item, own[0], parts)));
  const temporaryPath = parts.paths.freshIncoming('sheet');
  try {
    const sheets = runSheets(run, made, parts);
    if (!sheets.ok) return sheets;
    const { job, artworks } = sheets.value;
    const files = [{ sheet: 0, temporaryPath }];
    const written = await parts.imaging.writeSheets({ ...job, files }, artworks);
    return written.ok ? success(temporaryPath) : written;
  } finally {
    const paths = made.flatMap(({ path }) => path ?? []);
    await Promise.all(paths.map((path) => unlink(path).catch(() => undefined)));
  }
}

/** A photo as a run would make it ready; one that cannot be leaves its place empty. */
async function prepared(
  run: PlannedRun['run'],
  item: NewItem,
  first: NewItem,
  parts: ExportParts,
): Promise<SheetItem> {
  const { tables, paths, imaging } = parts;
  const none: SheetItem = { ...item, result: null, path: null };
  const ruled = plannedRule(run, item, first);
  if (!ruled.ok || (await sourceProblem(item, parts)) !== null) return none;
  const artworks = new ArtworkList(parts);
  const marks = marksOfItem(run, item).map(({ rule, adjustment, markId, markVersion }) => {
    const mark = artworks.placeOf(markId, markVersion);
    if (mark === null) throw new Error(MARK_IS_GONE);
    return { rule, adjustment, mark };
  });
  const photo = item.photoId === null ? null : tables.photos.get(item.photoId);
  const { rule: deliveryRule, ...rest } = ruled.value;
  const temporaryPath = paths.freshIncoming('on-sheet');
  const [made] = await imaging.render(
    {
      named: { name: item.sourceName, number: item.number, batch: run.batchName },
      source: item.sourcePath,
      proxy: photo ? proxyOf(photo, paths) : undefined,
      outputs: [{ marks, deliveryRule, ...rest, temporaryPath }],
    },
    artworks.files,
    item.width * item.height,
  );
  return made.ok ? { ...none, result: photoResult(made.value), path: temporaryPath } : none;
}
