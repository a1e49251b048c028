import { basename, join } from 'node:path';
import { disksOf } from './disks.ts';
import type { DeliveryPlanView, RunPlanView, RunWish } from '#core/contract/http';
import type { WordToken } from '#core/lettering/words';
import { nameKey } from '#core/delivery/conflicts';
import { estimatedBytes } from '#core/delivery/estimatedBytes';
import { TYPE_FACTS } from '#core/delivery/typeFacts';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { placeMark } from '#core/placement/placeMark';
import type { MarkRow } from '../db/markRows.ts';
import type { PhotoRow } from '../db/photos.ts';
import type { NewItem, OwnPreset } from '../db/runItems.ts';
import type { NewRun } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { notFound, unusable } from '../http/errors.ts';
import type { Lifts } from '../lifts.ts';
import { marksOfItem } from './marksOfItem.ts';
import { namesThere, placeOf, type FoldersKnown } from './planPlaces.ts';
import { tokensOfMark } from '../wordsOfMark.ts';
import { batchFolderName, deliveryOf, outputPlace } from './runNames.ts';

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

const EXAMPLES = 3;
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
  const photos = chosen.filter(({ id }) => !adjustments.get(id)?.leftOut);
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
    deliveries: deliveries.map(({ id, name, rule, folder, subfolder }) => ({
      ...{ deliveryId: id, name, rule },
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
  const deliveryPresets = deliveries.map(({ presetId }, at) =>
    at === 0 ? null : ownPreset(presetId ?? undefined, wish, tables),
  );
  const items = photos.flatMap((photo, index) => {
    const adjustment = adjustments.get(photo.id) ?? {};
    const own = ownPreset(adjustment.presetId, wish, tables);
    return run.deliveries.map((_, at) => {
      const item = { ...newItem(photo, index + 1), delivery: at + 1 };
      const ofDelivery = deliveryPresets[at];
      // What was adjusted by hand was so on the wall, which shows the photo as the first delivery has it.
      return ofDelivery
        ? { ...item, adjustment: {}, own: ofDelivery, isAlone: true }
        : { ...item, adjustment, own, isAlone: false };
    });
  });
  const there = await Promise.all(run.deliveries.map((one) => namesThere(one, house)));
  const closed = there.find((one) => !one.ok);
  const problem = placeProblem(run, items, tables) ?? (closed && !closed.ok ? closed.reason : null);
  const views = run.deliveries.map((_, at) => {
    const names = there[at];
    const preset = run.deliveries[at].rule.mark
      ? (deliveryPresets[at]?.presetName ?? run.presetName)
      : null;
    const taken = names.ok ? names.value : new Set<string>();
    return { ...deliveryView(run, at + 1, photos, items, taken), preset };
  });
  const laid = [mark, ...run.over.map(({ markId }) => markThere(markId, tables))];
  const writesYear = laid.flatMap(tokensOfMark).some((token) => DATED.has(token));
  const undated = writesYear ? photos.filter((photo) => photo.capturedAt === null).length : 0;
  const disks = await disksOf(views);
  const view: RunPlanView = {
    ...{ photos: photos.length, files: items.length, deliveries: views, problem, undated, disks },
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
    ...wish.deliveryIds.map((id) => tables.deliveries.get(id)?.presetId),
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

/**
 * The preset of a photo's own, or of a delivery's beside the first, which is the one on the wall. A preset
 * that is gone by now is none: the batch's is taken. So it is where its own is the batch's, which may have
 * been changed on the bench without being saved.
 */
function ownPreset(
  presetId: number | undefined,
  wish: RunWish,
  { presets, marks }: Tables,
): OwnPreset | null {
  if (presetId === undefined || presetId === wish.presetId) return null;
  const preset = presets.get(presetId);
  const mark = preset && marks.get(preset.markId);
  if (!preset || !mark) return null;
  const { name: presetName, rule } = preset;
  return { presetName, rule, markId: mark.id, markVersion: mark.version };
}

function newItem(
  photo: PhotoRow,
  number: number,
): Omit<NewItem, 'delivery' | 'adjustment' | 'own' | 'isAlone'> {
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
    const frame = resizeFrame(item, deliveryOf(run, item).rule.resize);
    for (const { rule, markId, adjustment } of marksOfItem(run, item)) {
      const placed = placeMark(frame, aspectOf(markId), rule, adjustment);
      if (!placed.ok) return `${item.sourceName}: ${placed.reason}`;
    }
  }
  return null;
}

function deliveryView(
  run: NewRun,
  number: number,
  photos: readonly PhotoRow[],
  items: readonly NewItem[],
  /** Names in the folder, as they are compared. */
  taken: ReadonlySet<string>,
): Omit<DeliveryPlanView, 'preset'> {
  const { deliveryId, name, rule, folder } = run.deliveries[number - 1];
  const own = items.filter(({ delivery }) => delivery === number);
  const names = own.map((item) => {
    const { base, extension } = outputPlace(run, item);
    return `${base}.${extension}`;
  });
  const { depth } = TYPE_FACTS[rule.file.type];
  const bytes = own.map((item, at) =>
    estimatedBytes(resizeFrame(item, rule.resize), rule.file, photos[at]),
  );
  return {
    ...{ deliveryId: deliveryId ?? 0, name, folder },
    examples: names.slice(0, EXAMPLES).map((example) => basename(example)),
    sameNames: names.length - new Set(names.map(nameKey)).size,
    existing: names.filter((one) => taken.has(nameKey(one))).length,
    estimatedBytes: bytes.reduce((sum, some) => sum + some, 0),
    reducedBits: photos.filter(({ bits }) => bits > depth).length,
  };
}
