import { setTimeout as delay } from 'node:timers/promises';
import pLimit from 'p-limit';
import type { Logger } from 'pino';
import type { LiftWish } from '#core/contract/http';
import type { LiftSettings } from '#core/contract/lift';
import type { ArtworkOrigin } from '#core/contract/origin';
import { sheetView } from '#core/ink/sheetView';
import type { Box } from '#core/placement/geometry';
import { failure, success, type Result } from '#core/result';
import type { MarkRow } from './db/markRows.ts';
import type { ScanRow } from './db/scans.ts';
import type { Tables } from './db/tables.ts';
import type { LiftedFile } from './imaging/lift/liftFile.ts';
import type { Imaging } from './imaging/pool/imaging.ts';
import type { Marks } from './marks.ts';
import { CHANGED_MEANWHILE } from './newArtwork.ts';
import { artworkOrigin } from './newArtwork.ts';
import type { Scans } from './scans.ts';

export interface LiftsHouse {
  readonly tables: Tables;
  readonly scans: Scans;
  readonly marks: Marks;
  readonly imaging: Imaging;
  readonly log: Logger;
  /** Says that a mark was changed. */
  readonly tell: (markId: number) => void;
}

type PaperOrigin = Extract<ArtworkOrigin, { kind: 'paper' }>;

/** An answer waits this long for the lift: what fails by then was never a mark. */
const PATIENCE_MS = 600;
/** Scans up to this are lifted within about a second, and waited for. */
const SMALL_PIXELS = 2_000_000;
/** The ink of a PDF's page, which was not drawn yet. */
const A_SIGNATURE: Box = Object.freeze({ x: 0, y: 0, width: 1_200, height: 400 });

/**
 * Lifts that are kept. A large scan takes seconds, so its mark is listed before it is lifted, and what
 * needs its artwork waits by `settled`. That it is pending is noted with the mark: the next server goes
 * on with what this one did not finish.
 */
export class Lifts {
  private readonly working = new Map<number, Promise<Result<void>>>();
  /** Versions that could not be lifted; they are tried again by the next server. */
  private readonly failed = new Map<
    number,
    { readonly version: number; readonly reason: string }
  >();
  /** One by one: the page needs a process for its pictures meanwhile. */
  private readonly oneByOne = pLimit(1);
  private isClosed = false;

  constructor(private readonly house: LiftsHouse) {}

  async keep(scan: ScanRow, wish: LiftWish): Promise<Result<number>> {
    const { page, settings, name, markId } = wish;
    const { tables, marks } = this.house;
    // The layers of a composed mark are drawn with the new artwork, so that one is there first.
    if (marks.composed(markId)) return this.keepFinished(scan, wish);
    const origin: PaperOrigin = { kind: 'paper', scanId: scan.id, page, settings };
    const id = marks.reserve(origin, guessedInk(scan, settings), name, markId);
    const row = tables.marks.get(id);
    if (!row) throw new Error('The mark was not listed.');
    const work = this.begin(row);
    // A small one that is next is done in a moment; behind a large one it would wait for that.
    const isNext = this.oneByOne.activeCount + this.oneByOne.pendingCount <= 1;
    const outcome =
      isSmall(scan) && isNext
        ? await work
        : await Promise.race([work, delay(PATIENCE_MS, null, { ref: false })]);
    if (outcome === null) this.follow(row, work);
    else if (!outcome.ok) {
      const isUsed = tables.presets.namesUsingMark(id).length > 0;
      if (isUsed) this.leave(row, outcome.reason);
      else tables.together(() => tables.marks.withdraw(id, row.version));
      return outcome;
    }
    return success(id);
  }

  /** Answers when the artwork is there. */
  async keepFinished(scan: ScanRow, wish: LiftWish): Promise<Result<number>> {
    const { page, settings, name, markId } = wish;
    const origin: PaperOrigin = { kind: 'paper', scanId: scan.id, page, settings };
    const lifted = await this.lifted(origin);
    if (!lifted.ok) return lifted;
    return this.house.marks.addOwn(...kept(lifted.value, origin), name, markId);
  }

  /** Once a mark's artwork is there, or the reason why it is not. */
  async settled(markId: number): Promise<Result<void>> {
    // Without waiting where nothing is under way: of several who ask at once, the first begins it.
    const working = this.working.get(markId);
    if (working) await working;
    const row = this.house.tables.marks.get(markId);
    if (!row?.isPending) return success(undefined);
    const failed = this.failed.get(markId);
    if (failed?.version === row.version) return failure(`${row.name}: ${failed.reason}`);
    const work = this.begin(row);
    this.follow(row, work);
    return work;
  }

  /** Goes on with what was not finished. */
  async recover(): Promise<void> {
    const { marks } = this.house.tables;
    marks.withdrawOld();
    await Promise.all(marks.pending().map((id) => this.settled(id)));
  }

  close(): void {
    this.isClosed = true;
  }

  private begin(row: MarkRow): Promise<Result<void>> {
    const work = this.oneByOne(() => this.finish(row)).then((outcome) => {
      if (!outcome.ok) this.failed.set(row.id, { version: row.version, reason: outcome.reason });
      if (this.working.get(row.id) === work) this.working.delete(row.id);
      return outcome;
    });
    this.working.set(row.id, work);
    return work;
  }

  private async finish(row: MarkRow): Promise<Result<void>> {
    const { marks, log } = this.house;
    try {
      const origin = artworkOrigin(row.origin);
      if (origin.kind !== 'paper') throw new Error('it waits for a lift without a scan');
      const lifted = await this.lifted(origin);
      if (!lifted.ok) return lifted;
      const [drawn, , pixels] = kept(lifted.value, origin);
      const done = await marks.complete(row, drawn, pixels);
      return done.ok || done.reason === CHANGED_MEANWHILE ? success(undefined) : done;
    } catch (error) {
      log.error(error, 'a lift was not kept');
      return failure(`The mark could not be written (${(error as Error).message}).`);
    }
  }

  /** What comes of a lift that was answered before it was there. */
  private follow(row: MarkRow, work: Promise<Result<void>>): void {
    work
      .then((outcome) => {
        // What failed since the server is closing is tried again by the next one.
        if (this.isClosed) return;
        if (!outcome.ok) this.leave(row, outcome.reason);
        this.house.tell(row.id);
      })
      .catch((error: unknown) => this.house.log.error(error, 'what came of a lift is not noted'));
  }

  /** A mark that was lifted again is what it was before; a new one says what is wrong with it. */
  private leave({ id, version }: MarkRow, reason: string): void {
    const { tables } = this.house;
    tables.together(() => {
      const before = tables.marks.finishedBefore(id, version);
      const artwork = before && tables.marks.artwork(id, before);
      if (!before || !artwork) {
        tables.marks.setNotes(id, version, [reason]);
        return;
      }
      const note = `It could not be lifted again, so it is as before. ${reason}`;
      tables.marks.withdraw(id, version);
      tables.marks.setNotes(id, before, [...artwork.notes, note]);
    });
  }

  private async lifted({ scanId, page, settings }: PaperOrigin): Promise<Result<LiftedFile>> {
    const { tables, scans, imaging } = this.house;
    const scan = tables.scans.get(scanId ?? 0);
    if (!scan) return failure('The scan is not there any more.');
    const file = await scans.pixelsFile(scan, page);
    return file.ok ? imaging.lift(file.value, settings) : file;
  }
}

/** Outlines where they are good, the pixels always. */
function kept(
  { png, svg, keepsOutlines }: LiftedFile,
  origin: PaperOrigin,
): [string | Uint8Array, ArtworkOrigin, Uint8Array | null] {
  return svg !== null && keepsOutlines ? [svg, origin, png] : [png, origin, null];
}

function isSmall({ width, height }: ScanRow): boolean {
  return width !== null && height !== null && width * height <= SMALL_PIXELS;
}

/** All that is lifted: the crop lies round the ink. */
function guessedInk({ width, height }: ScanRow, settings: LiftSettings): Box {
  if (width === null || height === null) return A_SIGNATURE;
  const { crop } = sheetView({ width, height }, settings);
  return { x: 0, y: 0, width: crop.width, height: crop.height };
}
