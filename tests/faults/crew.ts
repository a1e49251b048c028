import { mkdirSync, readFileSync } from 'node:fs';
import { setTimeout as delay } from 'node:timers/promises';
import { join } from 'node:path';
import { freePort, startRedis, startWorker, type OwnProcess } from '#tests/helpers/crew';
import { temporaryFolder } from '#tests/helpers/house';
import type { Random } from './random.ts';

/** Workers of a world, with the Redis between: they end, freeze and come back. */

const NAMES = ['attic', 'cellar'] as const;
const LEASE_MS = 1_500;

export class Crew {
  private redis: OwnProcess | null = null;
  private readonly workers = new Map<string, OwnProcess>();
  private readonly folder = temporaryFolder();

  private constructor(
    private readonly port: number,
    /** `name=folder` */
    private readonly roots: readonly string[],
    private readonly data: string,
  ) {}

  static async open(roots: readonly string[], data: string): Promise<Crew> {
    const crew = new Crew(await freePort(), roots, data);
    await crew.startRedis();
    return crew;
  }

  /** For the server. */
  get env(): NodeJS.ProcessEnv {
    return { LIGHT_CREST_REDIS: this.address, LIGHT_CREST_ROOTS: this.roots.join(':') };
  }

  private get address(): string {
    return `redis://127.0.0.1:${this.port}`;
  }

  /** Once the server has made its token. */
  startWorkers(): void {
    for (const name of NAMES) this.start(name);
  }

  async killWorker(random: Random): Promise<void> {
    const name = random.of(NAMES);
    await this.workers.get(name)?.kill();
    await delay(random.below(400));
    this.start(name);
  }

  /** For longer than its leases last, or not. */
  async freezeWorker(random: Random): Promise<void> {
    const worker = this.workers.get(random.of(NAMES));
    worker?.signal('SIGSTOP');
    await delay(random.below(3 * LEASE_MS));
    worker?.signal('SIGCONT');
  }

  /** It comes back with nothing in it. */
  async restartRedis(random: Random): Promise<void> {
    await this.redis?.kill();
    await delay(random.below(1_500));
    await this.startRedis();
  }

  async end(): Promise<void> {
    for (const worker of this.workers.values()) await worker.kill();
    await this.redis?.kill();
  }

  private async startRedis(): Promise<void> {
    this.redis = await startRedis(this.folder, this.port);
  }

  private start(name: string): void {
    const token = readFileSync(join(this.data, 'worker-token'), 'utf8').trim();
    const cache = join(this.folder, 'cache');
    mkdirSync(cache, { recursive: true });
    const wish = { name, redis: this.address, token, roots: this.roots, leaseMs: LEASE_MS, cache };
    this.workers.set(name, startWorker(wish));
  }
}
