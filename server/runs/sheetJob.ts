import { basename, extname } from 'node:path';
import { outputName, type NameValues } from '#core/delivery/namePattern';
import { sheetsWithPhotos } from '#core/sheet/photoOnSheet';
import { failure, success, type Result } from '#core/result';
import type { ItemResult, NewItem } from '../db/runItemRows.ts';
import type { NewRun } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import type { WantedMark } from '../imaging/pass/renderJob.ts';
import type { ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import type { SheetJob, SheetPhotoJob } from '../imaging/sheet/sheetJob.ts';
import type { Marks } from '../marks.ts';
import { ArtworkList, MARK_IS_GONE } from './artworkList.ts';
import { marksOfItem } from './marksOfItem.ts';
import { deliveryOf } from './runNames.ts';

/** A photo of a run to paper that was made ready. */
export interface SheetItem extends Omit<NewItem, 'photoId' | 'sourcePath'> {
  readonly result: ItemResult | null;
  /** Null: it could not be made. */
  readonly path: string | null;
}

/** Sheets of a run whose photos have been made ready. */
export interface RunSheets {
  /** Without the files that are wanted. */
  readonly job: Omit<SheetJob, 'files'>;
  readonly artworks: readonly ArtworkFile[];
  /** Sheets that there are. */
  readonly count: number;
}

/** @param items of one delivery, in their order */
export function runSheets(
  run: NewRun,
  items: readonly SheetItem[],
  parts: { readonly tables: Tables; readonly marks: Marks },
): Result<RunSheets> {
  const [head] = items;
  const { rule, name } = deliveryOf(run, head);
  const artworks = new ArtworkList(parts);
  const photos: SheetPhotoJob[] = [];
  for (const item of items) {
    const { result } = item;
    const size = { width: item.width, height: item.height };
    const caption = rule.sheet.caption ? captionOf(rule.sheet.caption.pattern, run, item) : '';
    if (item.path === null || !result) {
      photos.push({ size, path: null, frame: size, marks: [], caption, words: null });
      continue;
    }
    const drawn = [result, ...(result.others ?? [])];
    const laid = marksOfItem(run, item).flatMap(({ markId, markVersion }, at) => {
      const placement = drawn.at(at)?.placement;
      const mark = placement ? artworks.placeOf(markId, markVersion) : null;
      return placement && mark !== null ? [{ placement, mark }] : [];
    });
    photos.push({
      ...{ size, frame: result.frame, marks: laid, caption, words: result.words ?? null },
      path: item.path,
    });
  }
  const margin: WantedMark[] = [];
  if (rule.mark && rule.sheet.mark_on !== 'photo') {
    // A preset of one photo's own does not count for the sheet that it lies on.
    const own = head.over === null ? null : head.own;
    for (const one of marksOfItem(run, { own, over: head.over, adjustment: {} })) {
      const mark = artworks.placeOf(one.markId, one.markVersion);
      if (mark === null) return failure(MARK_IS_GONE);
      margin.push({ rule: one.rule, adjustment: {}, mark });
    }
  }
  const given = photos.map(({ size, path }) => ({ size, isThere: path !== null }));
  const sheets = sheetsWithPhotos(rule.sheet, given);
  if (!sheets.ok) return sheets;
  const title = `${run.batchName}, ${name}`;
  const job = { rule, title, photos, margin };
  return success({ job, artworks: artworks.files, count: sheets.value.length });
}

/** A line of words from a name pattern. */
export function captionOf(pattern: string, run: NewRun, item: SheetItem): string {
  const { name } = deliveryOf(run, item);
  return outputName(pattern, {
    name: basename(item.sourceName, extname(item.sourceName)),
    ...{ number: item.number, batch: run.batchName, delivery: name },
    date: item.capturedAt?.slice(0, 'YYYY-MM-DD'.length) ?? '',
    preset: item.own?.presetName ?? run.presetName,
    ...{ width: item.width, height: item.height },
  });
}

type DocumentRun = Pick<NewRun, 'batchName' | 'presetName' | 'deliveries'>;

/** What a document is called, before it is known whether the name is free. @param sheet 0: all in one */
export function documentName(
  run: DocumentRun,
  delivery: number,
  sheet: number,
  count: number,
): { readonly base: string; readonly extension: string } {
  const { name, rule } = run.deliveries[delivery - 1];
  const values: NameValues = {
    // Of all photos together: their batch.
    ...{ name: run.batchName, batch: run.batchName, preset: run.presetName, delivery: name },
    ...{ number: Math.max(1, sheet), date: '', width: 0, height: 0 },
  };
  const named = outputName(rule.name_pattern, values);
  const tells = /\{number/.test(rule.name_pattern) || sheet === 0;
  const digits = String(count).length;
  const base = tells ? named : `${named} ${String(sheet).padStart(digits, '0')}`;
  // A show is a folder.
  return { base, extension: rule.kind === 'show' ? '' : SHEET_ENDINGS[rule.sheet.as] };
}

const SHEET_ENDINGS = { pdf: 'pdf', tiff: 'tif', jpeg: 'jpg' } as const;
