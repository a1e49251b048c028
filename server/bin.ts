import type { BinEntry, BinKind } from '#core/contract/http';
import { freeName } from '#core/placement/suggestName';
import { failure, success, type Result } from '#core/result';
import type { Batches } from './batches.ts';
import type { Tables } from './db/tables.ts';
import type { Marks } from './marks.ts';

/** How long what was deleted can be put back. */
export const BIN_DAYS = 30;
const DAY_MS = 24 * 60 * 60 * 1_000;

interface BinHouse {
  readonly tables: Tables;
  readonly marks: Marks;
  readonly batches: Batches;
}

const GONE = 'It is not in the bin any more.';

/**
 * What was deleted: out of every list, with its files, until it is put back or its time is over. Nothing
 * in the bin is in the way of anything: a name it has may be given to another.
 */
export class Bin {
  constructor(private readonly house: BinHouse) {}

  list(now = Date.now()): BinEntry[] {
    return this.house.tables.bin.all().map((row) => {
      const left = Date.parse(row.deletedAt) + BIN_DAYS * DAY_MS - now;
      return { ...row, daysLeft: Math.max(0, Math.ceil(left / DAY_MS)) };
    });
  }

  /** As it was; what it cannot be without is put back with it. */
  putBack(kind: BinKind, id: number): Result<void> {
    const { tables } = this.house;
    return tables.together(() => {
      const entry = tables.bin.all().find((some) => some.kind === kind && some.id === id);
      if (!entry) return failure(GONE);
      const home = kind === 'batches' ? tables.batches.takenFrom(id) : null;
      if (home !== null) {
        for (const photo of tables.photos.ofBatch(id)) tables.photos.move(photo.id, home);
        tables.batches.remove(id);
        return success(undefined);
      }
      const mark = kind === 'presets' ? tables.bin.markOfPreset(id) : null;
      if (mark !== null) this.putBack('marks', mark);
      if (kind === 'deliveries') tables.bin.forgetBinnedPreset(id);
      const taken = tables[kind].all().map(({ name }) => name);
      tables.bin.takeOut(kind, id, freeName(entry.name, taken));
      return success(undefined);
    });
  }

  /** For good, with its files. */
  async remove(kind: BinKind, id: number): Promise<Result<void>> {
    const { tables, marks, batches } = this.house;
    const isThere = tables.bin.all().some((entry) => entry.kind === kind && entry.id === id);
    if (!isThere) return failure(GONE);
    if (kind === 'batches') await batches.remove(id);
    else if (kind === 'presets') this.removePreset(id);
    else if (kind === 'deliveries') {
      tables.together(() => {
        tables.earlier.forget('delivery', id);
        tables.deliveries.remove(id);
      });
    } else {
      if (tables.marks.isUsedByRun(id)) return failure('A run that is still listed shows it.');
      for (const preset of tables.bin.presetsOfMark(id)) this.removePreset(preset);
      await marks.remove(id);
    }
    return success(undefined);
  }

  private removePreset(id: number): void {
    const { tables } = this.house;
    tables.together(() => {
      tables.adjustments.forgetPreset(id);
      tables.bin.forgetPreset(id);
      tables.earlier.forget('preset', id);
      tables.presets.remove(id);
    });
  }

  /**
   * Takes away what has been there for its time; with no time left for any, everything. What cannot go
   * stays for the next time, and keeps nothing else there.
   *
   * @throws the last reason, when all others are gone
   */
  async empty(now = Date.now() + BIN_DAYS * DAY_MS): Promise<void> {
    let problem: unknown = null;
    for (const { kind, id, daysLeft } of this.list(now)) {
      if (daysLeft > 0) continue;
      await this.remove(kind, id).catch((error: unknown) => (problem = error));
    }
    if (problem) throw problem;
  }

  /** What is over its time goes, now and once a day, as long as the process lives. */
  clearDaily(onError: (error: unknown) => void): void {
    const clear = (): void => void this.empty(Date.now()).catch(onError);
    clear();
    setInterval(clear, DAY_MS).unref();
  }
}
