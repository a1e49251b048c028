import { join } from 'node:path';
import { disksOf } from './disks.ts';
import type { RunPlanView, RunWish } from '#core/contract/http';
import type { WordToken } from '#core/lettering/words';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { placeMark } from '#core/placement/placeMark';
import { isSameValue } from '#core/sameValue';
import type { DeliveryRow } from '../db/deliveries.ts';
import type { MarkRow } from '../db/markRows.ts';
import type { PhotoRow } from '../db/photos.ts';
import type { NewItem, OwnPreset } from '../db/runItemRows.ts';
import type { NewRun } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { notFound, unusable } from '../http/errors.ts';
import type { Lifts } from '../lifts.ts';
import { marksOfItem } from './marksOfItem.ts';
import { namesThere, placeOf, type FoldersKnown } from './planPlaces.ts';
import { tokensOfMark } from '../wordsOfMark.ts';
import { deliveryPlan, plannedRule } from './deliveryPlan.ts';
import { batchFolderName, deliveryOf } from './runNames.ts';

/** A run worked out but not begun. */
export interface PlannedRun {
  readonly run: NewRun;
  readonly items: NewItem[];
  readonly view: RunPlanView;
}

export interface PlanningHouse extends FoldersKnown {
  readonly tables: Tables;
  readonly lifts: Lifts;
}

/** Words that come from a photo's capture date. */
const DATED: ReadonlySet<WordToken> = new Set(['year', 'date', 'time'] as const);

export async function planRun(wish: RunWish, house: PlanningHouse): Promise<PlannedRun> {
  const { tables } = house;
  await marksSettled(wish, house);
  const batch = tables.batches.get(wish.batchId);
  if (!batch) throw notFound('That batch');
  const deliveries = [...new Set(wish.deliveryIds)].map((id) => {
    const delivery = tables.deliveries.get(id);
    if (!delivery) throw notFound('That delivery');
    return delivery;
  });
  const mark = markThere(wish.markId, tables);
  const chosen = chosenPhotos(tables.photos.ofBatch(batch.id), wish.photoIds);
  const adjustments = new Map(
    tables.adjustments.ofBatch(batch.id).map(({ photoId, adjustment }) => [photoId, adjustment]),
  );
  const kept = chosen.filter(({ id }) => !adjustments.get(id)?.leftOut);
  const photos = inOrder(kept, wish.order);
  if (photos.length === 0) {
    throw unusable(
      chosen.length > 0
        ? 'All photos of it are left out.'
        : 'There are no photos in this batch yet.',
    );
  }

  const ownFolder = join(house.exportsFolder, batchFolderName(batch.name));
  const run: NewRun = {
    batchId: batch.id,
    batchName: batch.name,
    deliveries: deliveries.map(({ id, name, rule, folder, subfolder, zip }) => ({
      ...{ deliveryId: id, name, rule, zip },
      ...placeOf(folder, subfolder, batch.name, ownFolder),
    })),
    presetId: wish.presetId && tables.presets.get(wish.presetId) ? wish.presetId : null,
    presetName: wish.presetName,
    rule: wish.rule,
    markId: mark.id,
    markVersion: mark.version,
    over: wish.over.map((over) => ({
      ...over,
      markVersion: markThere(over.markId, tables).version,
    })),
  };
  const { shownDeliveryId = deliveries[0].id } = wish;
  const ownMarks = deliveries.map((delivery) =>
    delivery.id === shownDeliveryId ? null : deliveryMarks(delivery, wish, tables),
  );
  const items = photos.flatMap((photo, index) => {
    const adjustment = adjustments.get(photo.id) ?? {};
    const own = ownPreset(adjustment.presetId, wish, tables);
    return run.deliveries.map((_, at) => {
      const item = { ...newItem(photo, index + 1), delivery: at + 1 };
      const marks = ownMarks[at];
      if (!marks) return { ...item, adjustment, own, over: null };
      const [first, ...over] = marks;
      // What was adjusted by hand was so on the wall, which shows the photo as one delivery has it.
      return { ...item, adjustment: {}, own: first, over };
    });
  });
  const there = await Promise.all(run.deliveries.map((one) => namesThere(one, house)));
  const closed = there.find((one) => !one.ok);
  const problem = placeProblem(run, items, tables) ?? (closed && !closed.ok ? closed.reason : null);
  const views = run.deliveries.map((_, at) => {
    const names = there[at];
    const preset = run.deliveries[at].rule.mark
      ? (ownMarks[at] ?? [run, ...run.over]).map(({ presetName }) => presetName).join(' + ')
      : null;
    const taken = names.ok ? names.value : new Set<string>();
    return { ...deliveryPlan(run, at + 1, photos, items, taken), preset };
  });
  const laid = [mark, ...run.over.map(({ markId }) => markThere(markId, tables))];
  const writesYear = laid.flatMap(tokensOfMark).some((token) => DATED.has(token));
  const undated = writesYear ? photos.filter((photo) => photo.capturedAt === null).length : 0;
  const disks = await disksOf(views);
  const view: RunPlanView = {
    ...{ photos: photos.length, deliveries: views, problem, undated, disks },
    files: views.reduce((sum, { files }) => sum + files, 0),
    estimatedBytes: views.reduce((sum, { estimatedBytes: bytes }) => sum + bytes, 0),
    sourceBytes: photos.reduce((sum, photo) => sum + photo.bytes, 0),
    leftOut: chosen.length - photos.length,
  };
  return { run, items, view };
}

/** A run takes marks at their full size: those that are still being lifted are waited for. */
async function marksSettled(wish: RunWish, { tables, lifts }: PlanningHouse): Promise<void> {
  const presetIds = [
    ...tables.adjustments.ofBatch(wish.batchId).map(({ adjustment }) => adjustment.presetId),
    ...wish.deliveryIds.flatMap((id) => {
      const delivery = tables.deliveries.get(id);
      return delivery ? [delivery.presetId, ...delivery.overIds] : [];
    }),
  ];
  const own = presetIds.flatMap((id) => tables.presets.get(id ?? 0)?.markId ?? []);
  for (const id of new Set([wish.markId, ...wish.over.map(({ markId }) => markId), ...own])) {
    const settled = await lifts.settled(id);
    if (!settled.ok) throw unusable(settled.reason);
  }
}

function markThere(id: number, { marks }: Tables): MarkRow {
  const mark = marks.get(id);
  if (!mark) throw notFound('That mark');
  return mark;
}

function chosenPhotos(photos: PhotoRow[], ids: readonly number[] | null): PhotoRow[] {
  if (ids === null) return photos;
  const wanted = new Set(ids);
  return photos.filter((photo) => wanted.has(photo.id));
}

/** @param order ids of photos, as the wall has them; those it does not name come last, as they were */
function inOrder(photos: readonly PhotoRow[], order: readonly number[] | null): PhotoRow[] {
  const places = new Map(order?.map((id, place) => [id, place]));
  const placeOf = ({ id }: PhotoRow): number => places.get(id) ?? places.size;
  return [...photos].sort((a, b) => placeOf(a) - placeOf(b));
}

/**
 * The marks that a delivery lays that the wall does not show, the lowest first; null: those on the wall, where
 * it says none, or the same. One of the wall's may have been changed on the bench without being saved, and is laid so.
 */
function deliveryMarks(
  { presetId, overIds }: DeliveryRow,
  wish: RunWish,
  tables: Tables,
): OwnPreset[] | null {
  if (presetId === null) return null;
  const ids = [presetId, ...overIds];
  const onWall = [wish, ...wish.over];
  if (
    isSameValue(
      ids,
      onWall.map((one) => one.presetId),
    )
  )
    return null;
  const marks = ids.flatMap((id) => {
    const there = onWall.find((one) => one.presetId === id);
    const { presetName, rule, markId } = there ?? { presetName: '', rule: null, markId: 0 };
    const mark = rule && tables.marks.get(markId);
    if (mark) return [{ presetName, rule, markId, markVersion: mark.version }];
    return savedPreset(id, tables) ?? [];
  });
  return marks.length > 0 ? marks : null;
}

/**
 * The preset of a photo's own. A preset that is gone by now is none: the batch's is taken. So it is where
 * its own is the batch's, which may have been changed on the bench without being saved.
 */
function ownPreset(presetId: number | undefined, wish: RunWish, tables: Tables): OwnPreset | null {
  if (presetId === undefined || presetId === wish.presetId) return null;
  return savedPreset(presetId, tables);
}

function savedPreset(presetId: number, { presets, marks }: Tables): OwnPreset | null {
  const preset = presets.get(presetId);
  const mark = preset && marks.get(preset.markId);
  if (!preset || !mark) return null;
  const { name: presetName, rule } = preset;
  return { presetName, rule, markId: mark.id, markVersion: mark.version };
}

function newItem(
  photo: PhotoRow,
  number: number,
): Omit<NewItem, 'delivery' | 'adjustment' | 'own' | 'over'> {
  return {
    number,
    photoId: photo.id,
    sourcePath: photo.path,
    sourceName: photo.name,
    capturedAt: photo.capturedAt,
    width: photo.width,
    height: photo.height,
  };
}

function placeProblem(run: NewRun, items: readonly NewItem[], { marks }: Tables): string | null {
  const aspects = new Map<number, number>();
  const aspectOf = (markId: number): number => {
    const known = aspects.get(markId);
    if (known !== undefined) return known;
    const ink = marks.get(markId)?.ink ?? { width: 1, height: 1 };
    aspects.set(markId, ink.width / ink.height);
    return ink.width / ink.height;
  };
  for (const item of items) {
    if (!deliveryOf(run, item).rule.mark) continue;
    const ruled = plannedRule(run, item, items[0]);
    if (!ruled.ok) return ruled.reason;
    const frame = resizeFrame(item, ruled.value.rule.resize);
    for (const { rule, markId, adjustment } of marksOfItem(run, item)) {
      const placed = placeMark(frame, aspectOf(markId), rule, adjustment);
      if (!placed.ok) return `${item.sourceName}: ${placed.reason}`;
    }
  }
  return null;
}
