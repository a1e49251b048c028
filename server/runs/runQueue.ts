import { mkdirSync, statSync } from 'node:fs';
import { unlink } from 'node:fs/promises';
import { join } from 'node:path';
import type { Logger } from 'pino';
import type { RunView } from '#core/contract/http';
import { nameKey } from '#core/delivery/conflicts';
import type { RunItemRow } from '../db/runItems.ts';
import type { RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { photosAtOnce } from '../imaging/limits.ts';
import type { Marks } from '../marks.ts';
import type { AllowedFolders } from '../storage/allowedFolders.ts';
import { temporaryName } from '../storage/atomicWrite.ts';
import type { DataPaths } from '../storage/dataPaths.ts';
import { storageSentence } from '../storage/storageErrors.ts';
import type { Engine } from './engine.ts';
import { claimName, placeOutput, SourceGuard, type RunKnowledge } from './placeOutput.ts';
import type { PlannedRun } from './planRun.ts';
import { proxyOf } from './proxyOf.ts';
import { recoverItems } from './recovery.ts';
import { outputPlace } from './runNames.ts';
import { RunPace } from './runPace.ts';
import { runView } from './runViews.ts';

export interface QueueHouse {
  readonly tables: Tables;
  readonly marks: Marks;
  readonly paths: DataPaths;
  readonly allowed: AllowedFolders;
  readonly engine: Engine;
  readonly log: Logger;
  readonly tell: (run: RunView) => void;
}

/** Source pixels worked on at once: two full photos of a large camera, or one giant panorama. */
const PIXELS_AT_ONCE = 130_000_000;

/** Works off runs in the background, oldest first, a bounded number of photos at once. */
export class RunQueue {
  private readonly knowledge = new Map<number, RunKnowledge>();
  private readonly paces = new Map<number, RunPace>();
  private active = 0;
  private activePixels = 0;
  private closed = false;

  constructor(private readonly house: QueueHouse) {}

  /** Takes up what an earlier server left unfinished. */
  recover(): void {
    for (const run of this.house.tables.runs.unfinished()) {
      recoverItems(this.house.tables, run.id, (item) => temporaryPath(run, item));
      this.finishIfDone(run.id);
    }
    this.pump();
  }

  begin(planned: PlannedRun): number {
    const { tables } = this.house;
    const id = tables.together(() => {
      const runId = tables.runs.insert(planned.run);
      tables.items.insertAll(runId, planned.items);
      return runId;
    });
    this.tell(id);
    this.pump();
    return id;
  }

  pause(run: RunRow): void {
    if (run.state !== 'running') return;
    this.house.tables.runs.setState(run.id, 'paused');
    this.paces.delete(run.id);
    this.tell(run.id);
  }

  resume(run: RunRow): void {
    if (run.state !== 'paused') return;
    this.house.tables.runs.setState(run.id, 'running');
    this.tell(run.id);
    this.pump();
  }

  /** What is being written is finished; the rest is not begun. */
  cancel(run: RunRow): void {
    if (run.state !== 'running' && run.state !== 'paused') return;
    this.house.tables.together(() => {
      this.house.tables.items.cancelWaiting(run.id);
      this.house.tables.runs.setState(run.id, 'cancelled');
    });
    this.tell(run.id);
  }

  /** Failed and cancelled photos once more; what is written stays. */
  retry(run: RunRow): void {
    if (this.house.tables.items.requeueFailed(run.id) === 0) return;
    this.house.tables.runs.setState(run.id, 'running');
    this.paces.delete(run.id);
    this.tell(run.id);
    this.pump();
  }

  forget(runId: number): void {
    this.knowledge.delete(runId);
    this.paces.delete(runId);
  }

  view(run: RunRow): RunView {
    return runView(run, this.house.tables.runs.counts(run.id), this.paces.get(run.id) ?? null);
  }

  close(): void {
    this.closed = true;
  }

  private pump(): void {
    while (!this.closed) {
      const next = this.takeNext();
      if (!next) return;
      const pixels = next.item.width * next.item.height;
      this.active++;
      this.activePixels += pixels;
      void this.work(next.run, next.item).finally(() => {
        this.active--;
        this.activePixels -= pixels;
        this.pump();
      });
    }
  }

  private takeNext(): { run: RunRow; item: RunItemRow } | null {
    const { tables } = this.house;
    // A photo beyond the budget waits until it can have the machine to itself.
    if (this.active > 0 && this.activePixels >= PIXELS_AT_ONCE) return null;
    for (const run of tables.runs.unfinished()) {
      if (run.state !== 'running') continue;
      if (this.active >= photosAtOnce()) return null;
      const item = tables.items.takeNext(run.id);
      if (item) return { run, item };
    }
    return null;
  }

  private async work(run: RunRow, item: RunItemRow): Promise<void> {
    try {
      await this.exportItem(run, item);
    } catch (error) {
      this.house.log.error({ err: error, run: run.id, item: item.id }, 'an export failed oddly');
      const reason = `Something went wrong (${(error as Error).message}).`;
      if (!this.closed) this.house.tables.items.finish(item.id, 'failed', null, reason);
    }
    if (this.closed) return;
    this.pace(run.id).step();
    this.finishIfDone(run.id);
    this.tell(run.id);
  }

  private async exportItem(run: RunRow, item: RunItemRow): Promise<void> {
    const { tables, marks } = this.house;
    const problem = this.openFolder(run) ?? this.sourceProblem(item);
    if (problem) return tables.items.finish(item.id, 'failed', null, problem);
    const knowledge = this.knowledgeOf(run);
    const early = this.earlyEnd(run, item, knowledge);
    if (early) return tables.items.finish(item.id, early.status, early.output, early.error);

    const { rule, markId, markVersion } = item.own ?? run;
    const mark = tables.marks.get(markId);
    if (!mark)
      return tables.items.finish(item.id, 'failed', null, 'The mark is not there any more.');
    const temporary = temporaryPath(run, item);
    const photo = item.photoId === null ? null : tables.photos.get(item.photoId);
    const rendered = await this.house.engine.render(
      {
        source: item.sourcePath,
        rule,
        adjustment: item.adjustment,
        proxy: photo ? proxyOf(photo, this.house.paths) : undefined,
        recipe: run.recipe,
        temporaryPath: temporary,
      },
      marks.artworkFile(mark, markVersion),
    );
    if (this.closed) return;
    if (!rendered.ok) return tables.items.finish(item.id, 'failed', null, rendered.reason);
    const { yearFromFile, bytesBefore, bytesAfter, durationMs } = rendered.value;
    const { frame, placement, readability } = rendered.value;
    const result = { frame, placement, readability };
    const note = yearFromFile === null ? null : yearNote(yearFromFile);
    tables.items.setMeasures(item.id, { result, note, bytesBefore, bytesAfter, durationMs });
    const inode = String(statSync(temporary, { bigint: true }).ino);
    const place = outputPlace(run, item, frame);
    const placed = await placeOutput(temporary, place, knowledge, (output) =>
      tables.items.setNaming(item.id, output, inode),
    );
    if (placed.status !== 'written') await unlink(temporary).catch(() => undefined);
    if (placed.status === 'failed') tables.items.finish(item.id, 'failed', null, placed.reason);
    else tables.items.finish(item.id, placed.status, placed.output, null);
  }

  /** An output that would be skipped or refused anyway is not worth decoding a photo for. */
  private earlyEnd(run: RunRow, item: RunItemRow, knowledge: RunKnowledge) {
    if (run.recipe.existing === 'number') return null;
    const place = outputPlace(run, item);
    const look = { claimed: new Set(knowledge.claimed), sources: knowledge.sources };
    const decision = claimName(place, look);
    if (decision.kind === 'refused') {
      return { status: 'failed' as const, output: null, error: decision.reason };
    }
    if (decision.kind !== 'skip') return null;
    return { status: 'skipped' as const, output: join(run.folder, decision.fileName), error: null };
  }

  /** Makes our own folder where it is missing; any other must be there. */
  private openFolder(run: RunRow): string | null {
    const allowed = this.house.allowed.resolve(run.folder);
    if (!allowed.ok) return allowed.reason;
    try {
      if (run.folder.startsWith(this.house.paths.exports))
        mkdirSync(run.folder, { recursive: true });
      if (statSync(run.folder).isDirectory()) return null;
      return `${run.folder} is a file, not a folder.`;
    } catch (error) {
      return storageSentence(join(run.folder, 'output'), error);
    }
  }

  private sourceProblem(item: RunItemRow): string | null {
    if (item.sourcePath.startsWith(this.house.paths.photos)) return null;
    const allowed = this.house.allowed.resolve(item.sourcePath);
    return allowed.ok ? null : allowed.reason;
  }

  private knowledgeOf(run: RunRow): RunKnowledge {
    const known = this.knowledge.get(run.id);
    if (known) return known;
    const knowledge = { claimed: new Set<string>(), sources: new SourceGuard() };
    this.knowledge.set(run.id, knowledge);
    for (const { device, inode } of this.house.tables.photos.identities()) {
      knowledge.sources.addIdentity(device, inode);
    }
    for (const item of this.house.tables.items.ofRun(run.id)) {
      if (item.status === 'written' && item.output) {
        knowledge.claimed.add(nameKey(item.output.slice(run.folder.length + 1)));
      }
    }
    return knowledge;
  }

  private finishIfDone(runId: number): void {
    const { tables } = this.house;
    const { total, written, skipped, failed, cancelled } = tables.runs.counts(runId);
    if (written + skipped + failed + cancelled < total) return;
    const run = tables.runs.get(runId);
    if (run?.state === 'running' || run?.state === 'paused') tables.runs.setState(runId, 'done');
    this.forget(runId);
  }

  private pace(runId: number): RunPace {
    let pace = this.paces.get(runId);
    if (!pace) this.paces.set(runId, (pace = new RunPace()));
    return pace;
  }

  private tell(runId: number): void {
    const run = this.house.tables.runs.get(runId);
    if (run) this.house.tell(this.view(run));
  }
}

function yearNote(year: number): string {
  return `It has no capture date, so the mark says ${year}, the year of its file.`;
}

/** Known again after a crash; the time keeps two data folders that share a destination apart. */
export function temporaryPath(run: RunRow, item: Pick<RunItemRow, 'id'>): string {
  return join(run.folder, temporaryName(`${Date.parse(run.createdAt)}-${run.id}-${item.id}`));
}
