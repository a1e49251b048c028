import { LRUCache } from 'lru-cache';
import type { ReadingView, ReadingWish } from '#core/contract/readability';
import type { ResizeRule } from '#core/contract/delivery';
import { adjustedRule } from '#core/placement/adjustment';
import { firstChoice } from '#core/readability/choice';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { Tables } from './db/tables.ts';
import { proxyOf } from './runs/proxyOf.ts';
import { yearOf } from './imaging/photo/probe.ts';
import type { Imaging } from './imaging/pool/imaging.ts';
import type { Lifts } from './lifts.ts';
import type { Marks } from './marks.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** Readings kept: a batch that is opened again, or a rule that was put back, is known at once. */
const READINGS_KEPT = 20_000;

export interface ReadingsHouse {
  readonly tables: Tables;
  readonly marks: Marks;
  readonly lifts: Lifts;
  readonly paths: DataPaths;
  readonly imaging: Imaging;
}

/** How marks read on photos, measured on their proxies by the imaging process. */
export class Readings {
  private readonly known = new LRUCache<string, ReadingView>({ max: READINGS_KEPT });

  constructor(private readonly house: ReadingsHouse) {}

  /** @returns null where the photo or the mark is not there any more */
  async of(wish: ReadingWish, resize: ResizeRule | null): Promise<ReadingView | null> {
    const { photoId, markId, rule, adjustment } = wish;
    const { tables, marks, lifts, paths, imaging } = this.house;
    const settled = await lifts.settled(markId);
    if (!settled.ok) return unread(wish, settled.reason);
    const photo = tables.photos.get(photoId);
    const mark = tables.marks.get(markId);
    if (!photo || !mark) return null;
    const key = JSON.stringify([
      photoId,
      photo.version,
      markId,
      mark.version,
      resize,
      rule,
      adjustment,
    ]);
    const known = this.known.get(key);
    if (known) return known;
    const judged = await imaging.judge(
      {
        proxy: proxyOf(photo, paths),
        subject: {
          frame: resizeFrame(photo, resize),
          ...{ rule, adjustment },
          year: yearOf(photo.capturedAt, photo.modifiedMs).year,
        },
      },
      marks.artworkFile(mark),
    );
    if (!judged.ok) return unread(wish, judged.reason);
    const { choice, readability } = judged.value;
    const reading = { photoId, choice, readability, problem: null };
    this.known.set(key, reading);
    return reading;
  }
}

function unread({ photoId, rule, adjustment }: ReadingWish, problem: string): ReadingView {
  const choice = firstChoice(adjustedRule(rule, adjustment));
  return { photoId, choice, readability: null, problem };
}
