import { LRUCache } from 'lru-cache';
import type { ReadingView, ReadingWish } from '#core/contract/readability';
import type { ResizeRule } from '#core/contract/delivery';
import { photoRule } from '#core/placement/adjustment';
import type { Size } from '#core/placement/geometry';
import { firstChoice } from '#core/readability/choice';
import { resizeFrame } from '#core/delivery/resizeFrame';
import type { MarkRow } from './db/markRows.ts';
import type { Tables } from './db/tables.ts';
import { proxyOf } from './runs/proxyOf.ts';
import { wordsKey } from '#core/lettering/words';
import { tokensOfMark, wordsOfPhoto } from './wordsOfMark.ts';
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

  /** @returns null where the photo or a mark is not there any more */
  async of(wish: ReadingWish, resize: ResizeRule | null): Promise<ReadingView | null> {
    const { photoId } = wish;
    const { tables, marks, lifts, paths, imaging } = this.house;
    const photo = tables.photos.get(photoId);
    if (!photo) return null;
    const frame = resizeFrame(photo, resize);
    const found: MarkRow[] = [];
    for (const { markId } of wish.marks) {
      const settled = await lifts.settled(markId);
      if (!settled.ok) return unread(wish, frame, settled.reason);
      const mark = tables.marks.get(markId);
      if (!mark) return null;
      found.push(mark);
    }
    const versions = found.map(({ version }) => version);
    const words = wordsOfPhoto(photo, wish.number, tables);
    const said = found.map((mark) => wordsKey(tokensOfMark(mark), words));
    const key = JSON.stringify([photoId, photo.version, versions, said, resize, wish.marks]);
    const known = this.known.get(key);
    if (known) return known;
    const judged = await imaging.judge(
      {
        name: photo.name,
        proxy: proxyOf(photo, paths),
        marks: wish.marks.map(({ rule, adjustment }, mark) => {
          return { subject: { frame, rule, adjustment, words }, mark };
        }),
      },
      found.map((mark) => marks.artworkFile(mark)),
    );
    if (!judged.ok) return unread(wish, frame, judged.reason);
    const { judgements, words: told } = judged.value;
    const reading = {
      photoId,
      marks: judgements.map(({ choice, readability }, mark) => {
        return { choice, readability, isEmpty: told.isEmpty[mark] };
      }),
      ...{ wordsNote: told.note, lacksLetters: told.lacksLetters, problem: null },
    };
    this.known.set(key, reading);
    return reading;
  }
}

function unread({ photoId, marks }: ReadingWish, frame: Size, problem: string): ReadingView {
  const first = marks.map(({ rule, adjustment }) => {
    const choice = firstChoice(photoRule(rule, adjustment, frame));
    return { choice, readability: null, isEmpty: false };
  });
  return { photoId, marks: first, wordsNote: null, lacksLetters: false, problem };
}
