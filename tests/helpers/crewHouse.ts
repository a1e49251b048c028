import { mkdirSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { expect } from 'vitest';
import type { RunDetailView, WorkersView } from '#core/contract/http';
import { freePort, startRedis, startWorker, type OwnProcess, type WorkerWish } from './crew.ts';
import { temporaryFolder, until } from './house.ts';
import { MARK_SVG, writeJpeg } from './makePhoto.ts';
import { ruleOf } from './runs.ts';
import { startServer, type ServerProcess } from './serverProcess.ts';

export const LEASE_MS = 1_500;
const FRAME = { width: 1_500, height: 1_000 };

/** A server, a Redis and workers, each a process of its own that can be killed, and a batch to export. */
export class CrewHouse {
  readonly folder = temporaryFolder();
  readonly pictures = temporaryFolder();
  readonly photos = join(this.pictures, 'photos');
  readonly out = join(this.pictures, 'out');
  readonly workers = new Map<string, OwnProcess>();
  redis!: OwnProcess;
  server!: ServerProcess;

  private constructor(
    readonly port: number,
    /** What server and workers are told, besides where Redis is. */
    private readonly env: NodeJS.ProcessEnv,
  ) {}

  static async open(env: NodeJS.ProcessEnv = {}): Promise<CrewHouse> {
    const house = new CrewHouse(await freePort(), env);
    mkdirSync(house.photos);
    mkdirSync(house.out);
    await house.startRedis();
    await house.serve();
    return house;
  }

  async close(): Promise<void> {
    for (const worker of this.workers.values()) await worker.kill();
    await this.server.kill();
    await this.redis.kill();
    for (const path of [this.folder, this.pictures]) rmSync(path, { recursive: true, force: true });
  }

  get address(): string {
    return `redis://127.0.0.1:${this.port}`;
  }

  /** With nothing in it. */
  async startRedis(tls?: { readonly key: string; readonly certificate: string }): Promise<void> {
    this.redis = await startRedis(this.pictures, this.port, tls);
  }

  async serve(env: NodeJS.ProcessEnv = {}): Promise<void> {
    this.server = await startServer(join(this.folder, 'data'), this.pictures, '0', {
      LIGHT_CREST_REDIS: this.address,
      ...this.env,
      ...env,
    });
  }

  work(name: string, part: Partial<WorkerWish> = {}): OwnProcess {
    const token = readFileSync(join(this.folder, 'data', 'worker-token'), 'utf8').trim();
    const wish = { name, redis: this.address, token, roots: [], leaseMs: LEASE_MS };
    const cache = join(this.folder, 'cache');
    const worker = startWorker({ ...wish, cache, env: this.env, ...part });
    this.workers.set(name, worker);
    return worker;
  }

  async ask<T>(method: string, path: string, body?: unknown): Promise<T> {
    const isText = typeof body === 'string';
    const answer = await fetch(`${this.server.address}/api${path}`, {
      method,
      headers: { 'Content-Type': isText ? 'application/octet-stream' : 'application/json' },
      ...(body === undefined ? {} : { body: isText ? body : JSON.stringify(body) }),
    });
    if (!answer.ok) throw new Error(await answer.text());
    return (answer.status === 204 ? undefined : await answer.json()) as T;
  }

  readonly crew = (): Promise<WorkersView> => this.ask<WorkersView>('GET', '/workers');

  /** Resolves when all of them are there and nothing keeps them from working. */
  areThere(...names: string[]): Promise<WorkersView> {
    return until(this.crew, ({ workers }) => {
      return names.every((name) => workers.some((one) => one.name === name && !one.problem));
    });
  }

  /** Resolves when a worker has said what keeps it from working. */
  hasProblem(name: string, problem: string): Promise<WorkersView> {
    return until(this.crew, ({ workers }) => {
      return workers.some((one) => one.name === name && one.problem?.includes(problem));
    });
  }

  /** @returns the id of a run of as many photos */
  async begun(count: number): Promise<number> {
    for (let number = 0; number < count; number++) {
      await writeJpeg(join(this.photos, `${number}.jpg`), { ...FRAME, seed: number });
    }
    const { id: batchId } = await this.ask<{ id: number }>('POST', '/batches', { name: 'Shore' });
    await this.ask('POST', `/batches/${batchId}/folders`, { path: this.photos });
    await until(
      () => this.ask<{ reading: unknown; photos: unknown[] }>('GET', `/batches/${batchId}`),
      (now) => now.reading === null && now.photos.length === count,
    );
    const { id: markId } = await this.ask<{ id: number }>('POST', '/marks?name=m.svg', MARK_SVG);
    const rule = { name_pattern: '{name}-marked' };
    const delivery = { name: 'Web', rule, folder: this.out };
    const { id: deliveryId } = await this.ask<{ id: number }>('POST', '/deliveries', delivery);
    const wish = { batchId, deliveryIds: [deliveryId], markId, presetName: 'P', rule: ruleOf({}) };
    return (await this.ask<{ id: number }>('POST', '/runs', wish)).id;
  }

  detail(id: number): Promise<RunDetailView> {
    return this.ask<RunDetailView>('GET', `/runs/${id}`);
  }

  written(id: number, least: number): Promise<RunDetailView> {
    return until(
      () => this.detail(id),
      ({ run }) => run.written >= least,
    );
  }

  ended(id: number): Promise<RunDetailView> {
    return until(
      () => this.detail(id),
      ({ run }) => run.state === 'done',
    );
  }

  /** Every output is there, whole, under the name that the run says, and nothing else is. */
  async expectWhole(run: RunDetailView, count: number): Promise<void> {
    expect(run.run).toMatchObject({ written: count, failed: 0, skipped: 0 });
    const names = readdirSync(this.out).sort();
    expect(names).toEqual(run.items.map(({ outputName }) => outputName).sort());
    expect(new Set(names).size).toBe(count);
    for (const name of names) {
      const output = sharp(join(this.out, name), { failOn: 'warning' });
      const { width, height } = await output.metadata();
      expect([width, height]).toEqual([FRAME.width, FRAME.height]);
      await output.stats();
    }
  }
}

/** Who made the outputs of a run; null is the server itself. */
export function makers({ items }: RunDetailView): Set<string | null> {
  return new Set(items.map(({ madeBy }) => madeBy));
}
