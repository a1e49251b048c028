import { mkdir, stat } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import pLimit from 'p-limit';
import type { Logger } from 'pino';
import type { InboxView } from '#core/contract/http';
import { without } from '#core/without';
import type { InboxFile, InboxRow } from '../db/inboxes.ts';
import type { Tables } from '../db/tables.ts';
import type { Imaging } from '../imaging/pool/imaging.ts';
import type { RunQueue } from '../runs/runQueue.ts';
import type { AllowedFolders } from '../storage/allowedFolders.ts';
import type { DataPaths } from '../storage/dataPaths.ts';
import { contentHash } from './contentHash.ts';
import type { FoundFile } from './folderSweep.ts';
import { FolderWatch, type Handled, type Pace } from './folderWatch.ts';
import { inboxProblem } from './inboxProblem.ts';
import { inboxRun, itemsOf, takesMore, type TakenFile } from './inboxRun.ts';
import { looksWhole } from './looksWhole.ts';
import { MovedAside } from './movedAside.ts';

export interface InboxParts {
  readonly tables: Tables;
  readonly paths: DataPaths;
  readonly allowed: AllowedFolders;
  readonly imaging: Imaging;
  readonly queue: RunQueue;
  readonly log: Logger;
  /** Something that is shown of an inbox has changed. */
  readonly tell: (id: number) => void;
  readonly pace?: Partial<Pace> | undefined;
}

interface Watched {
  readonly watch: FolderWatch;
  readonly over: Promise<void>;
  problem: string | null;
}

/** Photos that are looked at at once, before a run has them. */
const LOOKS_AT_ONCE = 4;

/** Folders that are watched: each photo in them becomes part of a run, once for its place and content. */
export class Inboxes {
  private readonly watched = new Map<number, Watched>();
  private readonly limit = pLimit(LOOKS_AT_ONCE);
  private readonly aside: MovedAside;

  constructor(private readonly parts: InboxParts) {
    this.aside = new MovedAside(parts.tables);
  }

  /** Those that are on, when a server starts. */
  start(): void {
    for (const inbox of this.parts.tables.inboxes.all()) if (inbox.isOn) this.watch(inbox);
  }

  /** What is looked at is let finish. */
  async close(): Promise<void> {
    for (const { watch } of this.watched.values()) watch.stop();
    await Promise.all([...this.watched.values()].map(({ over }) => over));
  }

  /** Begins anew with what an inbox says now, or leaves off. */
  async changed(id: number): Promise<void> {
    const known = this.watched.get(id);
    known?.watch.stop();
    await known?.over;
    this.watched.delete(id);
    const inbox = this.parts.tables.inboxes.get(id);
    if (inbox?.isOn) this.watch(inbox);
    this.parts.tell(id);
  }

  view(inbox: InboxRow): InboxView {
    const said = without(inbox, 'createdAt');
    const watched = this.watched.get(inbox.id);
    return {
      ...said,
      problem: watched?.problem ?? null,
      waiting: watched?.watch.waitingCount ?? 0,
      ...this.parts.tables.inboxes.counts(inbox.id),
    };
  }

  /** Why an inbox cannot be as it is wished, or null. */
  problemOf(inbox: Omit<InboxRow, 'createdAt'>): string | null {
    return inboxProblem(inbox, this.parts.tables, this.parts.paths.exports);
  }

  private watch(inbox: InboxRow): void {
    const { id } = inbox;
    const watch = new FolderWatch(
      inbox.folder,
      {
        isDone: (file) => this.isTaken(id, file),
        handle: (file, isLast) => this.limit(() => this.take(id, file, isLast)),
        away: (reason) => this.setProblem(id, reason),
        mayBegin: () => this.mayBegin(id),
      },
      this.parts.pace,
    );
    const over = watch.run().catch((error: unknown) => {
      this.parts.log.error({ err: error, inbox: id }, 'an inbox is not watched any more');
    });
    this.watched.set(id, { watch, over, problem: null });
  }

  private setProblem(id: number, problem: string | null): void {
    const watched = this.watched.get(id);
    if (!watched || watched.problem === problem) return;
    watched.problem = problem;
    this.parts.tell(id);
  }

  private isTaken(id: number, { name, bytes, modifiedMs }: FoundFile): boolean {
    const known = this.parts.tables.inboxes.file(id, name);
    if (known?.bytes !== bytes || known.modifiedMs !== modifiedMs) return false;
    return !this.aside.isDue(id, known);
  }

  /** What its photos go to may have been changed, or be away, since it was set up. */
  private async mayBegin(id: number): Promise<boolean> {
    const { tables, paths, allowed } = this.parts;
    const inbox = tables.inboxes.get(id);
    if (!inbox) return false;
    let problem = this.problemOf(inbox);
    const isAllowed = await allowed.resolve(inbox.folder);
    if (!isAllowed.ok) problem ??= isAllowed.reason;
    const run = inboxRun(inbox, '', tables, paths.exports);
    if (!run.ok) problem ??= run.reason;
    for (const deliveryId of inbox.deliveryIds) {
      const delivery = tables.deliveries.get(deliveryId);
      if (!delivery?.folder) continue;
      const isThere = (await stat(delivery.folder).catch(() => null))?.isDirectory() ?? false;
      if (!isThere) problem ??= `${delivery.folder}, where ${delivery.name} writes, is not there.`;
    }
    this.setProblem(id, problem);
    return problem === null;
  }

  private async take(id: number, file: FoundFile, isLast: boolean): Promise<Handled> {
    try {
      return await this.taken(id, file, isLast);
    } catch (error) {
      // A full disk, or a database that is busy: the photo waits.
      this.parts.log.error({ err: error, inbox: id }, 'a photo of an inbox waits');
      return 'again';
    }
  }

  private async taken(id: number, file: FoundFile, isLast: boolean): Promise<Handled> {
    const { tables, imaging } = this.parts;
    const inbox = tables.inboxes.get(id);
    if (!inbox?.isOn) return 'again';
    const { path, name, bytes, modifiedMs } = file;
    const hash = await contentHash(path).catch(() => null);
    if (hash === null && !isLast) return 'again';
    const known = tables.inboxes.file(id, name);
    const row: InboxFile = {
      ...{ name, bytes, modifiedMs, hash: hash ?? '', problem: null },
      number: tables.inboxes.numberOf(id, name),
    };
    if (hash !== null && known?.hash === hash) {
      // Touched, or copied over itself.
      tables.inboxes.putFile(id, { ...row, problem: known.problem });
      await this.aside.move(inbox, { ...row, problem: known.problem }, path);
      return 'done';
    }
    const isWhole = isLast || (await looksWhole(path).catch(() => false));
    const described = isWhole ? await imaging.describe(path) : null;
    if (!described?.ok && !isLast) return 'again';
    if (!described?.ok) {
      const problem = described?.reason ?? 'It cannot be read.';
      tables.inboxes.putFile(id, { ...row, problem });
      await this.aside.move(inbox, { ...row, problem }, path);
      this.parts.tell(id);
      return 'done';
    }
    const { size, capturedAt } = described.value;
    const below = dirname(name) === '.' ? '' : dirname(name);
    const fileName = basename(name);
    return this.begin(inbox, row, { path, fileName, below, number: 0, size, capturedAt });
  }

  private async begin(inbox: InboxRow, row: InboxFile, file: TakenFile): Promise<Handled> {
    const { tables, paths, queue } = this.parts;
    const planned = inboxRun(inbox, file.below, tables, paths.exports);
    if (!planned.ok) return 'again';
    // Mirrored folders are made; the one below which they lie was looked at before.
    for (const { folder } of planned.value.deliveries) await mkdir(folder, { recursive: true });
    tables.together(() => {
      // In this moment, since several photos are looked at at once.
      const number = tables.inboxes.numberOf(inbox.id, row.name);
      tables.inboxes.putFile(inbox.id, { ...row, number });
      const items = itemsOf({ ...file, number }, planned.value.deliveries.length);
      const last = tables.inboxes.lastRun(inbox.id, file.below);
      const run = last === null ? null : tables.runs.get(last);
      const isNew = !run || !takesMore(run, planned.value) || this.hasPhoto(run.id, number);
      if (isNew) {
        const runId = queue.begin({ run: planned.value, items });
        tables.inboxes.ofInbox(runId, inbox.id, file.below);
      } else {
        queue.append(run.id, items);
      }
    });
    this.parts.tell(inbox.id);
    return 'done';
  }

  /** A photo with other content than before goes out by a run of its own, as if it were begun anew. */
  private hasPhoto(runId: number, number: number): boolean {
    return this.parts.tables.items.hasNumber(runId, number);
  }
}
