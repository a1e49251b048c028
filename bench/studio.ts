import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as later } from 'node:timers/promises';
import type { BatchView, RunView, WorkersView } from '#core/contract/http';
import { DEFAULT_RULE } from '#core/contract/preset';
import { ensureNodeBuilt } from '../scripts/house.mjs';
import { freePort, startRedis, type OwnProcess } from '../tests/helpers/crew.ts';
import { startServer, type ServerProcess } from '../tests/helpers/serverProcess.ts';
import { ask } from './ask.ts';
import { MARK } from './material.ts';

/** As often as the page asks for runs. */
const POLL_MS = 700;
const LOOK_EACH_MS = 200;
const MS = 1_000;

/** A server with a Redis of its own. */
export class Studio {
  private constructor(
    readonly folder: string,
    readonly redis: OwnProcess,
    readonly address: string,
    readonly server: ServerProcess,
  ) {}

  static async open(): Promise<Studio> {
    process.env.LIGHT_CREST_BUILT = ensureNodeBuilt();
    const folder = mkdtempSync(join(tmpdir(), 'light-crest-crew-'));
    for (const name of ['photos', 'out', 'cache']) mkdirSync(join(folder, name));
    const port = await freePort();
    const redis = await startRedis(folder, port);
    const address = `redis://127.0.0.1:${port}`;
    const server = await startServer(join(folder, 'data'), folder, '0', {
      LIGHT_CREST_REDIS: address,
      LIGHT_CREST_ROOTS: `all=${folder}`,
    });
    return new Studio(folder, redis, address, server);
  }

  get token(): string {
    return readFileSync(join(this.folder, 'data', 'worker-token'), 'utf8').trim();
  }

  async batch(name: string, photos: number): Promise<number> {
    const { id } = await ask<BatchView>(this.server, 'POST', '/batches', { name });
    await ask(this.server, 'POST', `/batches/${id}/folders`, { path: join(this.folder, name) });
    const isIn = async (): Promise<boolean> => {
      const now = await ask<{ reading: unknown; photos: unknown[] }>(
        this.server,
        'GET',
        `/batches/${id}`,
      );
      return now.reading === null && now.photos.length === photos;
    };
    while (!(await isIn())) await later(LOOK_EACH_MS);
    return id;
  }

  async haveCome(count: number): Promise<void> {
    const fit = async (): Promise<number> =>
      (await ask<WorkersView>(this.server, 'GET', '/workers')).workers.filter(
        ({ problem }) => problem === null,
      ).length;
    while ((await fit()) !== count) await later(LOOK_EACH_MS);
  }

  /**
   * @param patterns names by as many deliveries
   * @returns seconds from its beginning to its end
   */
  async run(batchId: number, ...patterns: readonly string[]): Promise<number> {
    const markId = await this.mark();
    const deliveryIds: number[] = [];
    for (const name_pattern of patterns) {
      const delivery = { name: name_pattern, rule: { name_pattern }, folder: this.out };
      const { id } = await ask<{ id: number }>(this.server, 'POST', '/deliveries', delivery);
      deliveryIds.push(id);
    }
    const wish = {
      ...{ batchId, deliveryIds, markId, presetName: 'P', rule: DEFAULT_RULE },
      ...{ over: [], photoIds: null },
    };
    const beganMs = performance.now();
    const { id } = await ask<RunView>(this.server, 'POST', '/runs', wish);
    for (;;) {
      const runs = await ask<RunView[]>(this.server, 'GET', '/runs');
      if (runs.find((run) => run.id === id)?.state === 'done') break;
      await later(POLL_MS);
    }
    return (performance.now() - beganMs) / MS;
  }

  private get out(): string {
    return join(this.folder, 'out');
  }

  private async mark(): Promise<number> {
    const path = '/marks?name=m.svg';
    return (await ask<{ id: number }>(this.server, 'POST', path, readFileSync(MARK))).id;
  }

  async close(): Promise<void> {
    await this.server.stop();
    await this.redis.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}
