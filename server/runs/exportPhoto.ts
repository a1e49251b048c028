import { mkdir, rename, stat, unlink } from 'node:fs/promises';
import { join } from 'node:path';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { Result } from '#core/result';
import type { ItemResult, RunItemRow } from '../db/runItemRows.ts';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import type { OutputJob, RenderedOutput, WantedMark } from '../imaging/pass/renderJob.ts';
import { CHANGED_NOTE } from '../imports/freshness.ts';
import { ArtworkList, MARK_IS_GONE } from './artworkList.ts';
import { ended, failed, type ExportParts, type ItemEnd, type ItemInWork } from './exportParts.ts';
import { openFolder, sourceProblem } from './exportPlaces.ts';
import { outputRule } from './outputRule.ts';
import { marksOfItem } from './marksOfItem.ts';
import { lookForName, placeOutput } from './placeOutput.ts';
import { proxyOf } from './proxyOf.ts';
import type { RunNames } from './runNamesInUse.ts';
import { deliveryOf, outputPlace } from './runNames.ts';
import { stemOf } from './runTemporaries.ts';

/** Of a photo whose blocks cannot stay as they are. */
export const QUALITY_FOR_UNTOUCHED = 95;

/**
 * Makes outputs of one photo, all from one decode, up to their final names.
 *
 * @param end is told how each ended, as soon as it has; only that is left to be noted
 */
export async function exportPhoto(
  run: RunRow,
  works: readonly ItemInWork[],
  names: RunNames,
  signal: AbortSignal,
  parts: ExportParts,
  end: (item: RunItemRow, how: ItemEnd) => Promise<void>,
): Promise<void> {
  const wanted: ItemInWork[] = [];
  for (const work of works) {
    const early = await earlyEnd(run, work.item, names, parts);
    if (early) await end(work.item, early);
    else wanted.push(work);
  }
  if (wanted.length === 0) return;
  const made = await rendered(run, wanted, signal, parts);
  for (const [index, work] of wanted.entries()) {
    await end(work.item, await named(run, work, made[index], names, parts));
  }
}

/** What makes it needless to decode a photo for an output, or null. */
async function earlyEnd(
  run: RunRow,
  item: RunItemRow,
  names: RunNames,
  parts: ExportParts,
): Promise<ItemEnd | null> {
  const delivery = deliveryOf(run, item);
  const closed = await names.folders.of(delivery.folder, () => openFolder(delivery, parts));
  if (closed) return closed;
  const problem = await sourceProblem(item, parts);
  if (problem) return failed(problem);
  if (delivery.rule.kind !== 'files') {
    await mkdir(parts.paths.preparedOf(run.id), { recursive: true });
    return null;
  }
  if (delivery.rule.existing === 'number') return null;
  const knowledge = await names.knowledge();
  const early = await lookForName(placeOf(run, item, names), knowledge);
  if (early.kind === 'refused') return failed(early.reason);
  return early.kind === 'skip' ? ended('skipped', join(delivery.folder, early.fileName)) : null;
}

/** An output that was rendered, with what should be known of its photo. */
interface RenderedItem extends RenderedOutput {
  readonly isOther: boolean;
}

async function rendered(
  run: RunRow,
  works: readonly ItemInWork[],
  signal: AbortSignal,
  parts: ExportParts,
): Promise<Result<RenderedItem>[]> {
  const { tables, paths, imaging } = parts;
  const all = (result: Result<RenderedItem>) => works.map(() => result);
  const [{ item }] = works;
  const known = item.photoId === null ? null : tables.photos.get(item.photoId);
  const photo = known && (await parts.freshness.current(known));
  if (photo && !photo.ok) return all(photo);
  const row = photo?.value ?? null;
  // A delivery may have a preset of its own, and so another mark than the others.
  const artworks = new ArtworkList(parts);
  const outputs: OutputJob[] = [];
  for (const work of works) {
    const wanted: WantedMark[] = [];
    for (const { rule, markId, markVersion, adjustment } of marksOfItem(run, work.item)) {
      const mark = artworks.placeOf(markId, markVersion);
      if (mark === null) return all({ ok: false, reason: MARK_IS_GONE });
      wanted.push({ rule, adjustment, mark });
    }
    const ruled = outputRule(run, work.item, tables);
    if (!ruled.ok) return all(ruled);
    const { rule: deliveryRule, ...prepared } = ruled.value;
    outputs.push({ marks: wanted, deliveryRule, ...prepared, temporaryPath: work.temporary });
  }
  const proxy = row ? proxyOf(row, paths) : undefined;
  const made = await imaging.render(
    {
      named: { name: item.sourceName, number: item.number, batch: run.batchName },
      ...{ source: item.sourcePath, proxy, outputs, otherQuality: QUALITY_FOR_UNTOUCHED },
      readsBack: tables.settings.get().readsBack,
      key: `${stemOf(run)}-${works.map((work) => work.item.id).join('.')}`,
    },
    artworks.files,
    photoPixels(
      run,
      works.map((work) => work.item),
      tables,
    ),
    signal,
  );
  const isOther = row !== null && row.version !== known?.version;
  return made.map((one) => (one.ok ? { ok: true, value: { ...one.value, isOther } } : one));
}

/** Pixels that are held for outputs of one photo: the source, or one output of each size, where those are more. */
export function photoPixels(
  run: RunRow,
  items: readonly RunItemRow[],
  tables: Pick<Tables, 'items'>,
): number {
  const [{ width, height }] = items;
  const sizes = new Set(
    items.map((item) => {
      const ruled = outputRule(run, item, tables);
      const frame = ruled.ok ? resizeFrame(item, ruled.value.rule.resize) : item;
      return frame.width * frame.height;
    }),
  );
  const held = [...sizes].reduce((sum, pixels) => sum + pixels, 0);
  return Math.max(width * height, held);
}

/** A finished temporary file gets its name. */
async function named(
  run: RunRow,
  { item, temporary }: ItemInWork,
  made: Result<RenderedItem>,
  names: RunNames,
  { tables, paths, portions }: ExportParts,
): Promise<ItemEnd> {
  if (!made.ok) {
    await unlink(temporary).catch(() => undefined);
    return failed(made.reason);
  }
  const { bytesBefore, bytesAfter, durationMs } = made.value;
  const result = photoResult(made.value);
  const note = noteOn(made.value);
  if (deliveryOf(run, item).rule.kind !== 'files') {
    // What it weighs counts with the document that it becomes part of.
    const measures = { result, note, bytesBefore, bytesAfter: 0, durationMs };
    await portions.write(() => tables.items.setMeasures(item.id, measures));
    await rename(temporary, paths.preparedPhoto(run.id, item.delivery, item.number));
    return ended('written', null);
  }
  const measures = { result, note, bytesBefore, bytesAfter, durationMs };
  const inode = String((await stat(temporary, { bigint: true })).ino);
  const placed = await placeOutput(
    temporary,
    placeOf(run, item, names, made.value.frame),
    await names.knowledge(),
    item.sourcePath,
    (output) =>
      portions.write(() => {
        tables.items.setMeasures(item.id, measures);
        tables.items.setNaming(item.id, output, inode, temporary);
      }),
  );
  if (placed.status !== 'written') await unlink(temporary).catch(() => undefined);
  if (placed.status === 'failed') return failed(placed.reason);
  return ended(placed.status, placed.output);
}

/** What is remembered of an output. */
export function photoResult(made: RenderedOutput): ItemResult {
  const { frame, marks, readBack, words, madeBy } = made;
  const [first = { placement: null, readability: null }, ...others] = marks;
  return { frame, ...first, others, readBack, words, madeBy };
}

function placeOf(
  run: RunRow,
  item: RunItemRow,
  names: RunNames,
  frame?: Parameters<typeof outputPlace>[2],
) {
  return { ...outputPlace(run, item, frame), plannedName: names.plannedName(item.id) };
}

function noteOn({ isOther, yearFromFile, note }: RenderedItem): string | null {
  const notes = [
    isOther ? CHANGED_NOTE : null,
    yearFromFile === null ? null : yearNote(yearFromFile),
    note,
  ];
  return notes.filter((some) => some !== null).join(' ') || null;
}

function yearNote(year: number): string {
  return `It has no capture date, so the mark says ${year}, the year of its file.`;
}
