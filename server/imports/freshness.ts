import { stat } from 'node:fs/promises';
import pLimit from 'p-limit';
import type { Logger } from 'pino';
import type { Result } from '#core/result';
import type { PhotoRow } from '../db/photos.ts';
import type { Tables } from '../db/tables.ts';
import { withinTime } from '../storage/withinTime.ts';
import type { PhotoIntake } from './photoIntake.ts';

export interface FreshnessParts {
  readonly tables: Tables;
  readonly intake: PhotoIntake;
  readonly log: Logger;
  /** Photos of a batch are other than they were. */
  readonly tell: (batchId: number) => void;
}

/** A batch that is opened again and again is not looked through each time. */
const LOOK_AGAIN_MS = 5_000;
/** Of the time that a look took: one through many thousands is not begun again at once. */
const REST = 20;
const MOST_REST_MS = 60_000;
const LOOKS_AT_ONCE = 16;
/** What one look at a file may take. */
const LOOK_MS = 10_000;

export const CHANGED_NOTE = 'It has changed on disk since it was added, and was read again.';
const AWAY_NOTE = 'It is not where it was: it was moved, renamed or its disk was removed.';

/** Notices photos read in place that another program has changed, moved or deleted since. */
export class Freshness {
  /** When each batch may be looked through again, by the clock. */
  private readonly restUntilMs = new Map<number, number>();
  private readonly reading = new Map<number, Promise<Result<PhotoRow>>>();
  private isClosed = false;

  constructor(private readonly parts: FreshnessParts) {}

  /** Looks through a batch in the background, and tells where something was found. */
  lookThrough(batchId: number): void {
    const beganMs = Date.now();
    if (beganMs < (this.restUntilMs.get(batchId) ?? 0)) return;
    this.restUntilMs.set(batchId, Infinity);
    this.look(batchId)
      .catch((error: unknown) =>
        this.parts.log.warn({ err: error, batch: batchId }, 'photos could not be looked through'),
      )
      .finally(() => {
        const restMs = Math.min(MOST_REST_MS, REST * (Date.now() - beganMs));
        this.restUntilMs.set(batchId, Math.max(beganMs + LOOK_AGAIN_MS, Date.now() + restMs));
      });
  }

  /** The photo as it is on disk now, read again where it has changed. */
  async current(photo: PhotoRow): Promise<Result<PhotoRow>> {
    const state = await this.stateOf(photo);
    if (state !== 'changed') return { ok: true, value: photo };
    return this.readAgain(photo);
  }

  close(): void {
    this.isClosed = true;
  }

  private async look(batchId: number): Promise<void> {
    const photos = this.parts.tables.photos.ofBatch(batchId);
    const limit = pLimit(LOOKS_AT_ONCE);
    let isOther = false;
    const lookAt = async (photo: PhotoRow): Promise<void> => {
      const state = await this.stateOf(photo);
      if (this.isClosed || state === 'unknown') return;
      if (state === 'changed') {
        const read = await this.readAgain(photo);
        // Told once: the page asks for the batch again, which is looked through again by that.
        isOther ||= read.ok || photo.note !== read.reason;
      } else if ((state === 'away') !== (photo.note === AWAY_NOTE)) {
        this.parts.tables.photos.setNote(photo.id, state === 'away' ? AWAY_NOTE : null);
        isOther = true;
      }
    };
    await Promise.all(
      photos
        .filter(({ origin }) => origin === 'in-place')
        .map((photo) => limit(() => lookAt(photo))),
    );
    if (isOther && !this.isClosed) this.parts.tell(batchId);
  }

  private async stateOf({
    path,
    origin,
    bytes,
    modifiedMs,
  }: PhotoRow): Promise<'same' | 'changed' | 'away' | 'unknown'> {
    if (origin === 'copied') return 'same';
    try {
      const found = await withinTime(LOOK_MS, path, () => stat(path, { bigint: true }));
      const isSame = Number(found.size) === bytes && Number(found.mtimeMs) === modifiedMs;
      return isSame ? 'same' : 'changed';
    } catch (error) {
      return (error as NodeJS.ErrnoException).code === 'ENOENT' ? 'away' : 'unknown';
    }
  }

  /** A photo that does not open any more keeps what is known of it, and says why. */
  private readAgain(photo: PhotoRow): Promise<Result<PhotoRow>> {
    const known = this.reading.get(photo.id);
    if (known) return known;
    const reading = this.parts.intake
      .readAgain(photo, CHANGED_NOTE)
      .then((read) => {
        if (!read.ok && !this.isClosed) this.parts.tables.photos.setNote(photo.id, read.reason);
        return read;
      })
      .finally(() => this.reading.delete(photo.id));
    this.reading.set(photo.id, reading);
    return reading;
  }
}
