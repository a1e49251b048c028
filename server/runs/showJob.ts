import { basename, extname } from 'node:path';
import { failure, success, type Result } from '#core/result';
import type { Tables } from '../db/tables.ts';
import type { NewRun } from '../db/runs.ts';
import type { ArtworkFile } from '../imaging/raster/loadArtwork.ts';
import type { ShowJob } from '../imaging/show/showJob.ts';
import type { Marks } from '../marks.ts';
import { ArtworkList, MARK_IS_GONE } from './artworkList.ts';
import { marksOfItem } from './marksOfItem.ts';
import { deliveryOf } from './runNames.ts';
import { captionOf, type SheetItem } from './sheetJob.ts';

export interface RunShow {
  readonly job: Omit<ShowJob, 'temporaryPath'>;
  readonly artworks: readonly ArtworkFile[];
}

/** A show of photos of a run that have been made ready. @param items of one delivery, in their order */
export function runShow(
  run: NewRun,
  items: readonly SheetItem[],
  parts: { readonly tables: Tables; readonly marks: Marks },
): Result<RunShow> {
  const [head] = items;
  const { rule } = deliveryOf(run, head);
  const artworks = new ArtworkList(parts);
  const photos = items.flatMap((item) => {
    if (item.path === null) return [];
    const name = basename(item.sourceName, extname(item.sourceName));
    const { caption } = rule.show;
    const line = caption === null ? '' : captionOf(caption, run, item);
    return [{ path: item.path, name, caption: line }];
  });
  if (photos.length === 0) return failure('None of its photos could be made.');
  let mark: ShowJob['mark'] = null;
  if (rule.mark) {
    // A preset of one photo's own does not count for the screen.
    const own = head.over === null ? null : head.own;
    const [first] = marksOfItem(run, { own, over: head.over, adjustment: {} });
    const place = artworks.placeOf(first.markId, first.markVersion);
    if (place === null) return failure(MARK_IS_GONE);
    mark = { rule: first.rule, mark: place };
  }
  return success({ job: { rule, name: run.batchName, photos, mark }, artworks: artworks.files });
}
