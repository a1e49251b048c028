import { mkdir, stat, unlink } from 'node:fs/promises';
import { join } from 'node:path';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { RunItemRow } from '../db/runItems.ts';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import type { Imaging } from '../imaging/pool/imaging.ts';
import { CHANGED_NOTE, type Freshness } from '../imports/freshness.ts';
import type { Marks } from '../marks.ts';
import { isWithin, type AllowedFolders } from '../storage/allowedFolders.ts';
import type { DataPaths } from '../storage/dataPaths.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import { withinTime } from '../storage/withinTime.ts';
import { lookForName, placeOutput } from './placeOutput.ts';
import { proxyOf } from './proxyOf.ts';
import type { RunNames } from './runNamesInUse.ts';
import { outputPlace } from './runNames.ts';

export interface ExportParts {
  readonly tables: Tables;
  readonly marks: Marks;
  readonly paths: DataPaths;
  readonly allowed: AllowedFolders;
  readonly imaging: Imaging;
  readonly freshness: Freshness;
}

/** How an item of a run ended. */
export type ItemEnd =
  | {
      readonly kind: 'ended';
      readonly status: 'written' | 'skipped' | 'failed';
      readonly output: string | null;
      readonly error: string | null;
      readonly note?: string | null;
    }
  /** The folder does not answer: nothing is said of the photo, the run has to wait. */
  | { readonly kind: 'held'; readonly problem: string };

/** What looking at the folder of a run may take. */
const LOOK_MS = 30_000;

/** Makes the output of one item, up to its final name. Only the end itself is left to be noted. */
export async function exportItem(
  run: RunRow,
  item: RunItemRow,
  temporary: string,
  names: RunNames,
  signal: AbortSignal,
  parts: ExportParts,
): Promise<ItemEnd> {
  const { tables, marks, paths, imaging } = parts;
  const closed = await openFolder(run, parts);
  if (closed) return closed;
  const problem = await sourceProblem(item, parts);
  if (problem) return failed(problem);
  const knowledge = await names.knowledge();
  const place = (frame?: Parameters<typeof outputPlace>[2]) => ({
    ...outputPlace(run, item, frame),
    plannedName: names.plannedName(item.id),
  });
  if (run.deliveryRule.existing !== 'number') {
    // An output that would be skipped or refused anyway is not worth decoding a photo for.
    const early = await lookForName(place(), knowledge);
    if (early.kind === 'refused') return failed(early.reason);
    if (early.kind === 'skip') return ended('skipped', join(run.folder, early.fileName));
  }

  const { rule, markId, markVersion } = item.own ?? run;
  const mark = tables.marks.get(markId);
  if (!mark) return failed('The mark is not there any more.');
  const known = item.photoId === null ? null : tables.photos.get(item.photoId);
  const photo = known && (await parts.freshness.current(known));
  if (photo && !photo.ok) return failed(photo.reason);
  const row = photo?.value ?? null;
  const isOther = row !== null && row.version !== known?.version;
  const frame = resizeFrame(item, run.deliveryRule.resize);
  const [rendered] = await imaging.render(
    {
      source: item.sourcePath,
      proxy: row ? proxyOf(row, paths) : undefined,
      outputs: [
        {
          ...{ rule, adjustment: item.adjustment, mark: 0 },
          ...{ deliveryRule: run.deliveryRule, temporaryPath: temporary },
        },
      ],
    },
    [marks.artworkFile(mark, markVersion)],
    Math.max(item.width * item.height, frame.width * frame.height),
    signal,
  );
  if (!rendered.ok) {
    await unlink(temporary).catch(() => undefined);
    return failed(rendered.reason);
  }
  const { yearFromFile, leftOut, bytesBefore, bytesAfter, durationMs } = rendered.value;
  const { frame: outputFrame, placement, readability } = rendered.value;
  const result = { frame: outputFrame, placement, readability };
  const notes = [
    isOther ? CHANGED_NOTE : null,
    yearFromFile === null ? null : yearNote(yearFromFile),
    leftOut,
  ];
  const note = notes.filter((some) => some !== null).join(' ') || null;
  tables.items.setMeasures(item.id, { result, note, bytesBefore, bytesAfter, durationMs });
  const inode = String((await stat(temporary, { bigint: true })).ino);
  const placed = await placeOutput(
    temporary,
    place(outputFrame),
    knowledge,
    item.sourcePath,
    (output) => tables.items.setNaming(item.id, output, inode, temporary),
  );
  if (placed.status !== 'written') await unlink(temporary).catch(() => undefined);
  if (placed.status === 'failed') return failed(placed.reason);
  return ended(placed.status, placed.output);
}

function failed(error: string): ItemEnd {
  return { kind: 'ended', status: 'failed', output: null, error };
}

function ended(status: 'written' | 'skipped', output: string): ItemEnd {
  return { kind: 'ended', status, output, error: null };
}

/** Makes our own folder where it is missing; any other must be there. */
async function openFolder(
  { folder }: RunRow,
  { allowed, paths }: ExportParts,
): Promise<ItemEnd | null> {
  const isAllowed = await allowed.resolve(folder);
  if (!isAllowed.ok) return failed(isAllowed.reason);
  try {
    return await withinTime(LOOK_MS, folder, async () => {
      if (isWithin(paths.exports, folder)) await mkdir(folder, { recursive: true });
      if ((await stat(folder)).isDirectory()) return null;
      return failed(`${folder} is a file, not a folder.`);
    });
  } catch (error) {
    const sentence = storageSentence(join(folder, 'output'), error);
    const { code } = error as NodeJS.ErrnoException;
    const isSilent = code === 'ETIMEDOUT' || code === 'ESTALE';
    return isSilent ? { kind: 'held', problem: sentence } : failed(sentence);
  }
}

async function sourceProblem(
  item: RunItemRow,
  { allowed, paths }: ExportParts,
): Promise<string | null> {
  if (isWithin(paths.photos, item.sourcePath)) return null;
  const isAllowed = await allowed.resolve(item.sourcePath);
  return isAllowed.ok ? null : isAllowed.reason;
}

function yearNote(year: number): string {
  return `It has no capture date, so the mark says ${year}, the year of its file.`;
}
