import { stat, unlink } from 'node:fs/promises';
import { basename, dirname, join, resolve } from 'node:path';
import pLimit from 'p-limit';
import type { Imaging } from '#server/imaging/pool/imaging';
import { contentHash } from '#server/inbox/contentHash';
import type { FoundFile } from '#server/inbox/folderSweep';
import { FolderWatch, type Handled } from '#server/inbox/folderWatch';
import { isWithin } from '#server/storage/allowedFolders';
import { realPath } from '#server/storage/realPath';
import { canBeWritten } from '#server/storage/canBeWritten';
import { CallError } from './exit.ts';
import { jobsOf, openCall, placeOne, renderOne, type ExportOptions } from './exportPhoto.ts';
import { moveAside } from '#server/storage/moveAside';
import { WatchLedger } from './watchLedger.ts';
import { failedReport, printReport, type Report } from './commands/applyReport.ts';
import { openOutFolder } from './commands/outFolder.ts';

export interface WatchOptions extends ExportOptions {
  readonly out: string;
  /** Folder that photos go to which cannot be exported. */
  readonly moveFailed?: string;
}

type Call = Awaited<ReturnType<typeof openCall>>;

/** A folder whose photos are exported as they appear. */
export class WatchedInbox {
  failed = 0;
  private readonly limit;
  private readonly folders = new Map<string, Promise<string>>();
  private isOutAway = false;
  private isEnding = false;

  private constructor(
    private readonly inbox: string,
    private readonly given: string,
    private readonly options: WatchOptions,
    private readonly call: Call,
    private readonly out: string,
    private readonly ledger: WatchLedger,
  ) {
    this.limit = pLimit(jobsOf(options.jobs));
  }

  static async open(
    inbox: string,
    given: string,
    options: WatchOptions,
    imaging: Imaging,
  ): Promise<WatchedInbox> {
    const call = await openCall(options, imaging);
    const together = call.deliveries.find(({ value }) => value.kind !== 'files');
    if (together) {
      throw new CallError(
        `${together.name} needs all photos together, and those of a watched folder come one by one.`,
      );
    }
    const out = await openOutFolder(options.out);
    const ledger = new WatchLedger(out, inbox);
    // Outputs of before stay those of their photos, whatever a delivery says of names that are taken.
    for (const path of ledger.namesGiven()) call.knowledge.claim(dirname(path), basename(path));
    return new WatchedInbox(inbox, given, options, call, out, ledger);
  }

  close(): void {
    this.ledger.close();
  }

  /** What is in work when somebody ends it is finished; a second time ends it at once. */
  async untilEnded(): Promise<void> {
    const watch = new FolderWatch(this.inbox, {
      isDone: (file) => this.isDone(file),
      handle: (file, isLast) => this.limit(() => this.handle(file, isLast)),
      away: (reason) => {
        this.say(reason ? `${reason} It is waited for.` : `${this.given} is there again.`);
      },
      mayBegin: () => this.isOutThere(),
    });
    const stop = (): void => {
      this.isEnding = true;
      watch.stop();
    };
    process.once('SIGINT', stop).once('SIGTERM', stop);
    try {
      await watch.run();
    } finally {
      process.off('SIGINT', stop).off('SIGTERM', stop);
    }
  }

  private say(sentence: string): void {
    process.stderr.write(`light-crest: ${sentence}\n`);
  }

  private isDone({ name, bytes, modifiedMs }: FoundFile): boolean {
    const known = this.ledger.get(name);
    const isSame = known?.bytes === bytes && known.modifiedMs === modifiedMs;
    return isSame && this.ledger.isDone(name);
  }

  /** A disk that is full or away is no photo's fault: it is waited for. */
  private async isOutThere(): Promise<boolean> {
    const problem = await canBeWritten(this.out);
    if (problem !== null && !this.isOutAway) this.say(`${problem} It is waited for.`);
    if (problem === null && this.isOutAway) this.say(`${this.options.out} can be written again.`);
    this.isOutAway = problem !== null;
    return problem === null;
  }

  private async handle(file: FoundFile, isLast: boolean): Promise<Handled> {
    // What waits for its turn is left to the next call.
    if (this.isEnding) return 'again';
    const { ledger } = this;
    const { path, name, bytes, modifiedMs } = file;
    const hash = await contentHash(path).catch(() => null);
    if (hash === null) return isLast ? this.fails(file, 'It cannot be read.') : 'again';
    const known = ledger.get(name);
    const entry = { name, bytes, modifiedMs, hash, number: ledger.numberOf(name) };
    if (known?.hash === hash && ledger.isDone(name)) {
      // Touched, or copied over itself.
      ledger.begin(entry);
      ledger.done(name);
      return 'done';
    }
    if (known && known.hash !== hash) this.releaseOutputs(name);
    ledger.begin(entry);
    return this.exports(file, entry.number, isLast);
  }

  private async exports(file: FoundFile, number: number, isLast: boolean): Promise<Handled> {
    const { ledger, call } = this;
    const { name, path } = file;
    const photo = {
      ...{ source: join(this.given, name), path },
      batch: basename(dirname(path)),
    };
    await call.knowledge.sources.add(path);
    const below = dirname(name) === '.' ? '' : dirname(name);
    const out = join(this.options.out, below);
    const folder = await this.folderFor(below).catch((error: unknown) => error as Error);
    if (folder instanceof Error) return isLast ? this.fails(file, folder.message) : 'again';
    if (isWithin(this.inbox, await realPath(folder))) {
      return this.fails(file, `${folder} lies in the watched folder.`);
    }
    const there = ledger.outputsOf(name);
    const missing = call.deliveries.flatMap((value, at) => (there.has(at) ? [] : [{ value, at }]));
    const task = { photo, number, folder, out };
    const wanted = { ...call, deliveries: missing.map(({ value }) => value) };
    const made = await renderOne(task, wanted);
    const hasFailed = made.some((one) => !one.ok);
    const isChanged = !(await isAsFound(file));
    if (isChanged || (hasFailed && !isLast)) {
      await discard(made);
      return 'again';
    }
    let failed = false;
    for (const [index, { value: delivery, at }] of missing.entries()) {
      const one = made[index];
      const intend = (output: string): void => {
        if (one.ok) ledger.naming(name, at, output, one.value.temporaryPath);
      };
      const report = await placeOne(task, delivery, one, call, intend);
      if (report.status === 'failed' && one.ok && (await canBeWritten(folder)) !== null) {
        await discard(made);
        return 'again';
      }
      failed ||= report.status === 'failed';
      this.print(photo, delivery.name, report);
    }
    return failed ? this.failsAltogether(file) : this.finish(name);
  }

  /** Each folder of outputs is made, and cleared of what a killed call left, once. */
  private folderFor(below: string): Promise<string> {
    const known = this.folders.get(below);
    if (known) return known;
    const made = openOutFolder(join(this.out, below));
    this.folders.set(below, made);
    made.catch(() => this.folders.delete(below));
    return made;
  }

  /** A file has other content: its outputs may be replaced by what is made of that. */
  private releaseOutputs(name: string): void {
    for (const output of this.ledger.outputsOf(name).values()) {
      this.call.knowledge.release(dirname(output), basename(output));
    }
  }

  private print(
    photo: { source: string; path: string; batch: string },
    by: string,
    report: Report,
  ) {
    if (report.status === 'failed') this.failed++;
    printReport(photo, by, report, this.options.json ?? false);
  }

  private fails(file: FoundFile, reason: string): Promise<Handled> {
    const photo = { source: join(this.given, file.name), path: file.path, batch: '' };
    for (const { name } of this.call.deliveries) this.print(photo, name, failedReport(reason));
    return this.failsAltogether(file);
  }

  private async failsAltogether(file: FoundFile): Promise<Handled> {
    const { moveFailed } = this.options;
    if (moveFailed !== undefined) {
      const moved = await moveAside(file.path, resolve(moveFailed), file.name);
      this.say(moved.ok ? `${file.path} was moved to ${moved.value}.` : moved.reason);
    }
    return this.finish(file.name);
  }

  private finish(name: string): Handled {
    this.ledger.done(name);
    return 'done';
  }
}

async function discard(made: Awaited<ReturnType<typeof renderOne>>): Promise<void> {
  for (const one of made) if (one.ok) await unlink(one.value.temporaryPath).catch(() => undefined);
}

async function isAsFound({ path, bytes, modifiedMs }: FoundFile): Promise<boolean> {
  const now = await stat(path).catch(() => null);
  return now?.size === bytes && now.mtimeMs === modifiedMs;
}
