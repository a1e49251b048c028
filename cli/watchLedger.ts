import { createHash } from 'node:crypto';
import { closeSync, fsyncSync, openSync, readFileSync, statSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { without } from '#core/without';

/** A file of a watched folder, as it was when it was handled. */
export interface LedgerFile {
  readonly name: string;
  readonly bytes: number;
  readonly modifiedMs: number;
  readonly hash: string;
  /** Position among all that were handled, from 1. */
  readonly number: number;
}

/** An output that was about to get its name. */
interface Naming {
  readonly output: string;
  /** Of the file that is to have it: a crash may have come before or after. */
  readonly inode: string;
}

interface Entry {
  file: LedgerFile;
  isDone: boolean;
  /** By position of the delivery. */
  readonly naming: Map<number, Naming>;
}

type Line =
  | ({ readonly what: 'begun' } & LedgerFile)
  | ({ readonly what: 'naming'; readonly name: string; readonly delivery: number } & Naming)
  | { readonly what: 'done'; readonly name: string };

/**
 * What has become of each file of a watched folder, in a hidden file beside the outputs: a line for each
 * step, flushed before the step is taken. A line that was cut short by a crash is none.
 */
export class WatchLedger {
  private readonly entries = new Map<string, Entry>();
  private readonly handle: number;

  /** @param inbox the watched folder; each has a ledger of its own in `folder` */
  constructor(folder: string, inbox: string) {
    const id = createHash('sha256').update(inbox).digest('hex').slice(0, 16);
    const path = join(folder, `.light-crest-watched-${id}.jsonl`);
    this.handle = openSync(path, 'a+');
    const text = readFileSync(path, 'utf8');
    for (const line of text.split('\n')) this.take(parsed(line));
    // What follows a line that was cut short begins on one of its own.
    if (text !== '' && !text.endsWith('\n')) writeSync(this.handle, '\n');
  }

  /** The file as it was handled last, or is being handled. */
  get(name: string): LedgerFile | null {
    return this.entries.get(name)?.file ?? null;
  }

  isDone(name: string): boolean {
    return this.entries.get(name)?.isDone ?? false;
  }

  /** Where outputs of a file lie that were given their name, by position of the delivery. */
  outputsOf(name: string): Map<number, string> {
    const there = new Map<number, string>();
    for (const [delivery, { output, inode }] of this.entries.get(name)?.naming ?? []) {
      if (inodeOf(output) === inode) there.set(delivery, output);
    }
    return there;
  }

  /**
   * Names that outputs of before have. What a killed call was about to name or to replace is none of them:
   * that is still to be done.
   */
  namesGiven(): string[] {
    return [...this.entries.values()].flatMap(({ isDone, naming }) =>
      [...naming.values()]
        // Of what is done nothing is asked: on a slow disk, after years, that would take minutes.
        .filter(({ output, inode }) => isDone || inodeOf(output) === inode)
        .map(({ output }) => output),
    );
  }

  /** The number a file has, or would have. */
  numberOf(name: string): number {
    return this.entries.get(name)?.file.number ?? this.entries.size + 1;
  }

  /** A file is taken up; where it was so before with other content, that is over. */
  begin(file: LedgerFile): void {
    this.write({ what: 'begun', ...file });
  }

  /** @param temporary the finished file that is to have the name */
  naming(name: string, delivery: number, output: string, temporary: string): void {
    this.write({ what: 'naming', name, delivery, output, inode: inodeOf(temporary) ?? '' });
  }

  done(name: string): void {
    this.write({ what: 'done', name });
  }

  close(): void {
    closeSync(this.handle);
  }

  private write(line: Line): void {
    writeSync(this.handle, `${JSON.stringify(line)}\n`);
    fsyncSync(this.handle);
    this.take(line);
  }

  private take(line: Line | null): void {
    if (line?.what === 'begun') {
      const file = without(line, 'what');
      const known = this.entries.get(file.name);
      const isSame = known?.file.hash === file.hash;
      const naming = isSame ? known.naming : new Map<number, Naming>();
      this.entries.set(file.name, { file, isDone: false, naming });
    } else if (line) {
      const entry = this.entries.get(line.name);
      if (line.what === 'done' && entry) entry.isDone = true;
      if (line.what === 'naming') {
        entry?.naming.set(line.delivery, { output: line.output, inode: line.inode });
      }
    }
  }
}

function parsed(line: string): Line | null {
  try {
    return JSON.parse(line) as Line;
  } catch {
    return null;
  }
}

function inodeOf(path: string): string | null {
  try {
    return String(statSync(path, { bigint: true }).ino);
  } catch {
    return null;
  }
}
