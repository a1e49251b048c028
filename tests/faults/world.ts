import { createHash } from 'node:crypto';
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { MarkView, PresetView, RunDetailView, RunView } from '#core/contract/http';
import { temporaryFolder, until } from '#tests/helpers/house';
import { MARK_SVG, scene } from '#tests/helpers/makePhoto';
import { startServer, type ServerProcess } from '#tests/helpers/serverProcess';
import { smallDisk, type SmallDisk } from '#tests/helpers/smallDisk';
import { Crew } from './crew.ts';

/** A real server with folders of its own, and what it has confirmed so far. */

const SIZE = { width: 480, height: 320 };
const PHOTOS_A_FOLDER = 7;
export const PHOTOS_A_SHEET = 4;
const PROOFS = { paper: 'a6', grid: { columns: 2, rows: PHOTOS_A_SHEET / 2 } };
const SMALL_DISK = '700k';
const NAMES_OF_FOLDERS = ['mornings', 'harbour'] as const;

export interface Answer<T = unknown> {
  /** 0: the line broke, and nobody knows whether it was done. */
  readonly status: number;
  readonly body: T;
}

/** What was confirmed and must be there in the end. */
export class Confirmed {
  readonly presets = new Map<number, string>();
  readonly adjustments = new Map<number, number | null>();
  readonly batches = new Set<number>();
  readonly goneBatches = new Set<number>();
  /** Content of copied photos by batch. */
  readonly uploads = new Map<number, Set<string>>();
  surround: string | null = null;
  /** Keys of runs that were asked for, with the ids they were answered with. */
  readonly runs = new Map<string, Set<number>>();
}

export class World {
  readonly data = temporaryFolder();
  readonly pictures = temporaryFolder();
  readonly confirmed = new Confirmed();
  /** Content of the photographer's own files by path. */
  readonly originals = new Map<string, string>();
  readonly folders = NAMES_OF_FOLDERS.map((name) => join(this.pictures, name));
  readonly out = join(this.pictures, 'out');
  readonly smallFolder = join(this.pictures, 'small');
  /** Watched by the server all along. */
  readonly inbox = join(this.pictures, 'inbox');
  readonly inboxOut = join(this.pictures, 'inbox-out');
  /** Photos that were put into it, by their names below it. */
  readonly dropped = new Set<string>();
  disk: SmallDisk | null = null;
  markId = 0;
  /** Holds the first folder all along: what is no photo of any batch is not known as an original. */
  lastingBatch = 0;
  deliveries: number[] = [];
  /** Documents that were made anew when their run was tried again: what there was stays beside. */
  readonly earlierDocuments = new Set<string>();
  /** Deliveries that give each output a name of its own. */
  readonly keepsAll = new Set<number>();
  crew: Crew | null = null;
  private server: ServerProcess | null = null;

  constructor(private readonly hasWorkers = false) {}

  get address(): string {
    return this.server?.address ?? 'http://127.0.0.1:9';
  }

  get serverPid(): number {
    return this.server?.pid ?? 0;
  }

  async begin(): Promise<void> {
    for (const [index, folder] of this.folders.entries()) {
      mkdirSync(folder);
      for (let number = 0; number < PHOTOS_A_FOLDER; number++) {
        await this.writePhoto(join(folder, `${number}.jpg`), index * 100 + number);
      }
    }
    const broken = join(this.folders[0], 'broken.jpg');
    writeFileSync(broken, readFileSync(join(this.folders[0], '0.jpg')).subarray(0, 2_000));
    this.note(broken);
    mkdirSync(this.out);
    mkdirSync(join(this.inbox, 'day 2'), { recursive: true });
    mkdirSync(this.inboxOut);
    this.disk = smallDisk(this.smallFolder, SMALL_DISK);
    if (this.hasWorkers) {
      this.crew = await Crew.open([`pictures=${this.pictures}`, `data=${this.data}`], this.data);
    }
    await this.start();
    this.crew?.startWorkers();
    const mark = await this.send('POST', '/marks?name=mark.svg', Buffer.from(MARK_SVG));
    this.markId = (mark.body as MarkView).id;
    const rules: [object, string | null][] = [
      [{ name_pattern: '{name}-{batch}' }, null],
      [{ name_pattern: '{name}', existing: 'replace' }, this.out],
      [{ name_pattern: '{name}', existing: 'skip' }, this.out],
      // Into the photographer's own folder, under the names of the originals.
      [{ name_pattern: '{name}', existing: 'replace' }, this.folders[0]],
      [{ name_pattern: '{name}-{number}', resize: { px: 300 } }, this.smallFolder],
      // Its temporary file holds a patch first, and tools of their own are at work.
      [{ name_pattern: '{name}-kept', resize: null, file: { quality: 'untouched' } }, this.out],
      // Made of all photos, when the last of them has ended.
      [{ kind: 'sheet', name_pattern: '{batch} proofs', sheet: PROOFS }, this.out],
      [{ kind: 'show', name_pattern: '{batch} show', resize: { px: 200 } }, this.out],
    ];
    for (const [rule, folder] of rules) {
      const body = { name: 'D', rule, folder };
      const made = await this.send<{ id: number }>('POST', '/deliveries', body);
      this.deliveries.push(made.body.id);
      if (!('existing' in rule)) this.keepsAll.add(made.body.id);
    }
    const preset = { name: 'P', markId: this.markId, rule: { fallbacks: ['top'] } };
    const { body } = await this.send<PresetView>('POST', '/presets', preset);
    this.confirmed.presets.set(body.id, body.name);
    await this.fillLastingBatch();
    await this.watchInbox();
  }

  private async watchInbox(): Promise<void> {
    const rule = { name_pattern: '{name}', resize: { px: 200 } };
    const delivery = { name: 'Inbox', rule, folder: this.inboxOut };
    const { body } = await this.send<{ id: number }>('POST', '/deliveries', delivery);
    this.keepsAll.add(body.id);
    const presetIds = [...this.confirmed.presets.keys()];
    const wish = { name: 'Inbox', folder: this.inbox, presetIds, deliveryIds: [body.id] };
    const made = await this.send('POST', '/inboxes', wish);
    if (made.status !== 201) throw new Error(`No inbox: ${JSON.stringify(made.body)}`);
  }

  private async fillLastingBatch(): Promise<void> {
    const made = await this.send<{ id: number }>('POST', '/batches', { name: 'Lasting' });
    this.lastingBatch = made.body.id;
    this.confirmed.batches.add(this.lastingBatch);
    const address = `/batches/${this.lastingBatch}`;
    await this.send('POST', `${address}/folders`, { path: this.folders[0] });
    await until(
      async () => (await this.get<{ reading: unknown }>(address)).body.reading,
      (reading) => reading === null,
    );
  }

  async start(): Promise<void> {
    this.server = await startServer(this.data, this.pictures, '0', this.crew?.env);
  }

  async kill(): Promise<void> {
    await this.server?.kill();
    this.server = null;
  }

  /** As the system ends it: asked to. */
  async stop(): Promise<void> {
    await this.server?.stop();
    this.server = null;
  }

  /** What failed of a run is tried again. */
  async retry({ id }: Pick<RunView, 'id'>): Promise<void> {
    const { body } = await this.get<RunDetailView>(`/runs/${id}`);
    for (const { delivery, outputName } of body?.run.documents ?? []) {
      const { folder } = body.run.deliveries[delivery - 1];
      if (outputName !== null) this.earlierDocuments.add(join(folder, outputName));
    }
    await this.send('POST', `/runs/${id}/retry`);
  }

  /** What the server has said of itself. */
  said(): string {
    return this.server?.said() ?? '';
  }

  async end(): Promise<void> {
    await this.crew?.end();
    await this.kill();
    this.disk?.remove();
    rmSync(this.data, { recursive: true, force: true });
    rmSync(this.pictures, { recursive: true, force: true });
  }

  async writePhoto(path: string, seed: number): Promise<void> {
    const bytes = await scene({ ...SIZE, seed })
      .jpeg({ quality: 90 })
      .toBuffer();
    writeFileSync(path, bytes);
    this.note(path);
  }

  note(path: string): void {
    this.originals.set(path, hashOf(readFileSync(path)));
  }

  /** @param breakMs after which the line breaks, where it is to */
  async send<T = unknown>(
    method: string,
    path: string,
    body?: object,
    options: { readonly key?: string; readonly breakMs?: number | undefined } = {},
  ): Promise<Answer<T>> {
    const isBytes = Buffer.isBuffer(body);
    const headers: Record<string, string> = {
      'Content-Type': isBytes ? 'application/octet-stream' : 'application/json',
      ...(options.key ? { 'Idempotency-Key': options.key } : {}),
    };
    const init: RequestInit = { method, headers };
    if (body !== undefined) init.body = isBytes ? new Uint8Array(body) : JSON.stringify(body);
    if (options.breakMs !== undefined) init.signal = AbortSignal.timeout(options.breakMs);
    try {
      const answer = await fetch(`${this.address}/api${path}`, init);
      const text = await answer.text();
      return { status: answer.status, body: (text ? JSON.parse(text) : null) as T };
    } catch {
      return { status: 0, body: null as T };
    }
  }

  get<T>(path: string): Promise<Answer<T>> {
    return this.send<T>('GET', path);
  }

  /** Processes that the server has started. */
  children(): number[] {
    return readdirSync('/proc')
      .filter((name) => /^\d+$/.test(name) && parentOf(name) === this.serverPid)
      .map(Number);
  }
}

function parentOf(pid: string): number {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1]);
  } catch {
    return 0;
  }
}

export function hashOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}
