import { readdir, rm, stat } from 'node:fs/promises';
import { randomBytes } from 'node:crypto';
import { join } from 'node:path';
import type { RunDocumentRow } from '../db/runDocuments.ts';
import type { RunRow } from '../db/runs.ts';
import type { ExportParts } from './exportParts.ts';
import { openFolder } from './exportPlaces.ts';
import { existingOf } from './existingOf.ts';
import { isPublished } from './isPublished.ts';
import { placeOutput } from './placeOutput.ts';
import { plannedDocuments } from './plannedDocuments.ts';
import type { RunNames } from './runNamesInUse.ts';
import { runTemporary } from './runTemporaries.ts';
import { documentName } from './sheetJob.ts';

interface Making {
  readonly aborting: AbortController;
  readonly done: Promise<DocumentsEnd>;
}

/** Tells how the making of documents ended. */
export type DocumentsEnd = { readonly kind: 'made' } | { readonly kind: 'held'; problem: string };

const MADE: DocumentsEnd = Object.freeze({ kind: 'made' });

/**
 * What runs make of many photos together. Each photo is made ready as any output is; when all of a
 * delivery have ended, its sheets are written from those and given their names. A document is there whole
 * or not at all; one that a server was at when it ended is made anew from the same photos.
 */
export class DocumentsOfRuns {
  private readonly making = new Map<number, Making>();

  constructor(private readonly parts: ExportParts) {}

  /** Numbers of deliveries of which a document is still to be made. */
  left(run: RunRow): number[] {
    const made = this.parts.tables.documents.ofRun(run.id);
    return run.deliveries.flatMap(({ rule }, at) => {
      if (rule.kind === 'files') return [];
      const own = made.filter(({ delivery }) => delivery === at + 1);
      const isOpen = own.some(({ status }) => status === 'waiting' || status === 'naming');
      return own.length === 0 || isOpen ? [at + 1] : [];
    });
  }

  /** Makes what is left, of photos that have all ended. It never rejects for what is wrong with a document. */
  make(run: RunRow, names: RunNames): Promise<DocumentsEnd> {
    const underWay = this.making.get(run.id);
    if (underWay) return underWay.done;
    const aborting = new AbortController();
    const done = this.makeAll(run, names, aborting.signal).finally(() => {
      this.making.delete(run.id);
    });
    this.making.set(run.id, { aborting, done });
    return done;
  }

  isMaking(runId: number): boolean {
    return this.making.has(runId);
  }

  /** What is being written for a run is given up. */
  cancel(runId: number): void {
    this.making.get(runId)?.aborting.abort();
  }

  /** Resolves when nothing is made for a run any more. */
  async settled(runId: number): Promise<void> {
    await this.making.get(runId)?.done.catch(() => undefined);
  }

  /** Photos made ready for runs that ended while an earlier server did. */
  async sweep(): Promise<void> {
    const { tables, paths } = this.parts;
    for (const name of await readdir(paths.prepared)) {
      const run = tables.runs.get(Number(name));
      if (run?.state === 'running' || run?.state === 'paused') continue;
      if (run) await this.clearUp(run);
      else await rm(join(paths.prepared, name), { recursive: true, force: true });
    }
  }

  /** What a run that has ended needs no more: photos of documents that are made, or never will be. */
  async clearUp(run: RunRow): Promise<void> {
    const { tables, paths } = this.parts;
    const documents = tables.documents.ofRun(run.id);
    if (run.state === 'cancelled') {
      for (const delivery of this.left(run)) tables.items.cancelDelivery(run.id, delivery);
    }
    // Of one that failed they are kept: it can be tried again.
    if (documents.some(({ status }) => status === 'failed') && run.state !== 'cancelled') return;
    await rm(paths.preparedOf(run.id), { recursive: true, force: true });
  }

  /** Documents that failed, and those with photos that did, are made anew. @returns whether there are any */
  beginAnew(run: RunRow): boolean {
    const { tables } = this.parts;
    const items = tables.items.ofRun(run.id);
    let isAny = false;
    for (const [at, { rule }] of run.deliveries.entries()) {
      if (rule.kind === 'files') continue;
      const number = at + 1;
      const own = tables.documents.ofRun(run.id).filter(({ delivery }) => delivery === number);
      const isWaiting = items.some(
        ({ delivery, status }) => delivery === number && status === 'waiting',
      );
      const isFailed = own.some(({ status }) => status === 'failed');
      if (!isWaiting && !isFailed) continue;
      isAny = true;
      // Those that were written are gone from where they were made ready, unless the document failed.
      if (!isFailed) tables.items.requeueDelivery(run.id, number);
      tables.documents.forget(run.id, number);
    }
    return isAny;
  }

  /** What is being written is given up, and made by the next server. */
  async close(): Promise<void> {
    const all = [...this.making.values()];
    for (const { aborting } of all) aborting.abort();
    await Promise.allSettled(all.map(({ done }) => done));
  }

  private async makeAll(run: RunRow, names: RunNames, signal: AbortSignal): Promise<DocumentsEnd> {
    const { tables } = this.parts;
    for (const document of tables.documents.ofRun(run.id)) {
      if (document.status !== 'naming') continue;
      if (await isPublished(document)) tables.documents.finish(document.id, 'written', null, null);
      else tables.documents.requeue(document.id);
    }
    for (const delivery of this.left(run)) {
      const end = await this.makeOne(run, delivery, names, signal);
      if (end.kind === 'held') return end;
    }
    return MADE;
  }

  private async makeOne(
    run: RunRow,
    number: number,
    names: RunNames,
    signal: AbortSignal,
  ): Promise<DocumentsEnd> {
    const { tables, paths } = this.parts;
    const items = tables.items.ofRun(run.id).filter(({ delivery }) => delivery === number);
    const fail = (reason: string, sheets: readonly number[]): DocumentsEnd => {
      tables.documents.expect(run.id, number, sheets);
      for (const { id, delivery, status } of tables.documents.ofRun(run.id)) {
        if (delivery === number && status !== 'written' && status !== 'skipped') {
          tables.documents.finish(id, 'failed', null, reason);
        }
      }
      return MADE;
    };
    const closed = await openFolder(run.deliveries[number - 1], this.parts);
    if (closed?.kind === 'held') return closed;
    if (closed) return fail(closed.error ?? 'Its folder cannot be used.', [0]);
    const ready = items.map((item) => {
      const path = paths.preparedPhoto(run.id, number, item.number);
      return { ...item, path: item.status === 'written' ? path : null };
    });
    const plan = plannedDocuments(run, ready, signal, this.parts);
    if (!plan.ok) return fail(plan.reason, [0]);
    const { count, wanted, write } = plan.value;
    tables.documents.expect(run.id, number, wanted);
    const open = tables.documents
      .ofRun(run.id)
      .filter(({ delivery, status }) => delivery === number && status === 'waiting');
    // One file after the other, so that as few as can be lie about without a name.
    for (const document of open) {
      const { sheet } = document;
      const temporaryPath = runTemporary(
        run,
        run.deliveries[number - 1].folder,
        `d${number}.${sheet}-${randomBytes(3).toString('hex')}`,
      );
      const made = await write(sheet, temporaryPath);
      if (signal.aborted) {
        await removed(temporaryPath);
        return MADE;
      }
      if (!made.ok) {
        await removed(temporaryPath);
        return fail(made.reason, []);
      }
      await this.name(run, document, count, made.value, names, items[0].sourcePath);
    }
    return MADE;
  }

  private async name(
    run: RunRow,
    { id, delivery, sheet }: RunDocumentRow,
    count: number,
    { temporaryPath, bytes }: { readonly temporaryPath: string; readonly bytes: number },
    names: RunNames,
    source: string,
  ): Promise<void> {
    const { documents } = this.parts.tables;
    const { folder, rule } = run.deliveries[delivery - 1];
    const place = {
      ...documentName(run, delivery, sheet, count),
      ...{ folder, existing: existingOf(rule) },
    };
    const inode = String((await stat(temporaryPath, { bigint: true })).ino);
    const placed = await placeOutput(
      temporaryPath,
      place,
      await names.knowledge(),
      source,
      (output) => documents.setNaming(id, output, inode, temporaryPath, bytes),
    );
    if (placed.status !== 'written') await removed(temporaryPath);
    if (placed.status === 'failed') documents.finish(id, 'failed', null, placed.reason);
    else documents.finish(id, placed.status, placed.output, null);
  }
}

async function removed(path: string): Promise<void> {
  await rm(path, { recursive: true, force: true }).catch(() => undefined);
}
