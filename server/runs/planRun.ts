import { existsSync, statSync } from 'node:fs';
import { basename, join } from 'node:path';
import type { Adjustment } from '#core/contract/adjustment';
import type { RunPlanView, RunWish } from '#core/contract/http';
import { designFollowsYear } from '#core/design/year';
import { estimatedBytes } from '#core/delivery/estimatedBytes';
import { resizeFrame } from '#core/delivery/resizeFrame';
import { placeMark } from '#core/placement/placeMark';
import type { PhotoRow } from '../db/photos.ts';
import type { NewItem, OwnPreset } from '../db/runItems.ts';
import type { NewRun } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { notFound, unusable } from '../http/errors.ts';
import type { AllowedFolders } from '../storage/allowedFolders.ts';
import { batchFolderName, outputPlace } from './runNames.ts';

/** A run worked out but not begun. */
export interface PlannedRun {
  readonly run: NewRun;
  readonly items: NewItem[];
  readonly view: RunPlanView;
}

export interface PlanningHouse {
  readonly tables: Tables;
  readonly exportsFolder: string;
  readonly allowed: AllowedFolders;
}

const EXAMPLES = 3;

export function planRun(wish: RunWish, house: PlanningHouse): PlannedRun {
  const { tables } = house;
  const batch = tables.batches.get(wish.batchId);
  if (!batch) throw notFound('That batch');
  const delivery = tables.deliveries.get(wish.deliveryId);
  if (!delivery) throw notFound('That delivery');
  const mark = tables.marks.get(wish.markId);
  if (!mark) throw notFound('That mark');
  const chosen = chosenPhotos(tables.photos.ofBatch(batch.id), wish.photoIds);
  const adjustments = new Map(
    tables.adjustments.ofBatch(batch.id).map(({ photoId, adjustment }) => [photoId, adjustment]),
  );
  const photos = chosen.filter(({ id }) => !adjustments.get(id)?.leftOut);
  if (photos.length === 0) {
    throw unusable(
      chosen.length > 0
        ? 'Expected photos to export, found only such as are left out.'
        : 'Expected photos to export, found none in this batch.',
    );
  }

  const folder = delivery.folder ?? join(house.exportsFolder, batchFolderName(batch.name));
  const run: NewRun = {
    batchId: batch.id,
    batchName: batch.name,
    deliveryId: delivery.id,
    deliveryName: delivery.name,
    recipe: delivery.recipe,
    presetName: wish.presetName,
    rule: wish.rule,
    markId: mark.id,
    markVersion: mark.version,
    folder,
  };
  const items = photos.map((photo, index) => {
    const adjustment = adjustments.get(photo.id) ?? {};
    return { ...newItem(photo, index + 1), adjustment, own: ownPreset(adjustment, wish, tables) };
  });
  const problem = placeProblem(run, items, tables) ?? folderProblem(run, house);
  const writesYear = mark.origin.kind === 'design' && designFollowsYear(mark.origin.design);
  const undated = writesYear ? photos.filter((photo) => photo.capturedAt === null).length : 0;
  const leftOut = chosen.length - photos.length;
  return { run, items, view: { ...viewOf(run, photos, items, problem), undated, leftOut } };
}

function chosenPhotos(photos: PhotoRow[], ids: readonly number[] | null): PhotoRow[] {
  if (ids === null) return photos;
  const wanted = new Set(ids);
  return photos.filter((photo) => wanted.has(photo.id));
}

/**
 * A preset that is gone by now is none: the photo follows its batch. So it does where its own is the
 * batch's, which may have been changed on the bench without being saved.
 */
function ownPreset(
  { presetId }: Adjustment,
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

function newItem(photo: PhotoRow, number: number): Omit<NewItem, 'adjustment' | 'own'> {
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
    const ink = marks.get(markId)?.ink ?? { width: 1, height: 1 };
    const aspect = aspects.get(markId) ?? ink.width / ink.height;
    aspects.set(markId, aspect);
    return aspect;
  };
  for (const item of items) {
    const { rule, markId } = item.own ?? run;
    const frame = resizeFrame(item, run.recipe.resize);
    const placed = placeMark(frame, aspectOf(markId), rule, item.adjustment);
    if (!placed.ok) return `${item.sourceName}: ${placed.reason}`;
  }
  return null;
}

function folderProblem(run: NewRun, house: PlanningHouse): string | null {
  const allowed = house.allowed.resolve(run.folder);
  if (!allowed.ok) return allowed.reason;
  const isOwn = run.folder.startsWith(house.exportsFolder);
  // Only our own folder is made unasked: a missing one may be a disk that is not plugged in.
  if (isOwn || statSync(run.folder, { throwIfNoEntry: false })?.isDirectory()) return null;
  return `${run.folder} is not there. Choose another folder for ${run.deliveryName}, or make it.`;
}

function viewOf(
  run: NewRun,
  photos: readonly PhotoRow[],
  items: readonly NewItem[],
  problem: string | null,
): Omit<RunPlanView, 'undated' | 'leftOut'> {
  const names = items.map((item) => {
    const { base, extension } = outputPlace(run, item);
    return `${base}.${extension}`;
  });
  const frames = items.map((item) => resizeFrame(item, run.recipe.resize));
  const is8Bit = photos.every((photo) => photo.bits <= 8);
  return {
    files: items.length,
    folder: run.folder,
    examples: names.slice(0, EXAMPLES).map((name) => basename(name)),
    existing: names.filter((name) => existsSync(join(run.folder, name))).length,
    estimatedBytes: frames.reduce((sum, frame) => sum + estimatedBytes(frame, run.recipe.file), 0),
    sourceBytes: photos.reduce((sum, photo) => sum + photo.bytes, 0),
    reducedBits: is8Bit ? 0 : photos.filter((photo) => photo.bits > 8).length,
    problem,
  };
}
