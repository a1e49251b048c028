import { createHash, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, renameSync } from 'node:fs';
import { readFile, stat, utimes, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Redis } from 'ioredis';
import { LRUCache } from 'lru-cache';
import type { CrewNames } from './crewNames.ts';
import type { Seal } from './seal.ts';

/**
 * Files that travel with passes: artwork, fonts, proxies. Each is known by the SHA-256 of its bytes, lies
 * in Redis for a day, sealed, and is kept by each worker that had it; a proxy only as long as its pass.
 */
export interface Content {
  readonly hash: string;
  /** With the dot. */
  readonly ending: string;
  /** Stem of the only pass that needs it; it goes with that. Two photos may look the same. */
  readonly only?: string;
}

const keyOf = ({ hash, only }: Pick<Content, 'hash' | 'only'>): string =>
  only === undefined ? hash : `${hash}-${only}`;

/** What is larger stays on the server's machine, and so does the pass that needs it. */
export const MOST_CONTENT_BYTES = 32_000_000;
const KEPT_S = 86_400;
/** Redis may have been emptied: that it has something is believed for this long. */
const BELIEVED_MS = 60_000;
const MOST_READ_BYTES = 64_000_000;
/** What is not needed any more is removed together with what else comes to be so. */
const GATHERED_MS = 50;

/** The server's side. */
export class ContentOut {
  /** By path, size and date. */
  private readonly hashes = new LRUCache<string, string>({ max: 20_000 });
  /** What was read for its hash is sent soon after; by that. */
  private readonly read = new LRUCache<string, Buffer>({
    maxSize: MOST_READ_BYTES,
    sizeCalculation: ({ length }) => Math.max(1, length),
  });
  private readonly sent = new LRUCache<string, true>({ max: 20_000, ttl: BELIEVED_MS });
  private readonly unneeded = new Set<string>();

  constructor(
    private readonly redis: Redis,
    private readonly names: CrewNames,
    private readonly seal: Seal,
  ) {}

  /** A file of the data folder as content; null: it is too large to travel. */
  async known(path: string, ending: string): Promise<OwnContent | null> {
    const { size, mtimeMs } = await stat(path);
    if (size > MOST_CONTENT_BYTES) return null;
    const key = `${path}|${size}|${mtimeMs}`;
    const hash = this.hashes.get(key) ?? (await this.hashOf(path));
    this.hashes.set(key, hash);
    return { hash, ending, path };
  }

  private async hashOf(path: string): Promise<string> {
    const bytes = await readFile(path);
    const hash = hashOf(bytes);
    this.read.set(hash, bytes);
    return hash;
  }

  /** Sees to it that workers find it. */
  async offer({ path, ...content }: OwnContent): Promise<void> {
    const known = keyOf(content);
    if (this.sent.has(known)) return;
    const key = this.names.content(known);
    this.unneeded.delete(key);
    // What only one pass needs is hardly ever there already.
    if (content.only !== undefined || (await this.redis.expire(key, KEPT_S)) === 0) {
      const bytes = this.read.get(content.hash) ?? (await readFile(path));
      this.read.delete(content.hash);
      await this.redis.set(key, this.seal.closeBytes(bytes), 'EX', KEPT_S);
    }
    this.sent.set(known, true);
  }

  /** What only one pass needed goes with what others did; what is left where that fails goes after a day. */
  remove(content: Content): void {
    const known = keyOf(content);
    this.sent.delete(known);
    this.unneeded.add(this.names.content(known));
    if (this.unneeded.size === 1) setTimeout(() => this.removeUnneeded(), GATHERED_MS).unref();
  }

  private removeUnneeded(): void {
    const keys = [...this.unneeded];
    this.unneeded.clear();
    if (keys.length > 0) this.redis.del(...keys).catch(() => undefined);
  }

  /** Redis has lost what it had. */
  forget(): void {
    this.sent.clear();
  }
}

/** Content with the file that it is read from. */
export interface OwnContent extends Content {
  readonly path: string;
}

/** The worker's side. */
export class ContentIn {
  constructor(
    private readonly folder: string,
    private readonly redis: Redis,
    private readonly names: CrewNames,
    private readonly seal: Seal,
  ) {
    mkdirSync(folder, { recursive: true });
  }

  /** @returns where it lies and stays; null: Redis does not have it any more */
  async file(content: Content): Promise<string | null> {
    const path = join(this.folder, `${content.hash}${content.ending}`);
    if (existsSync(path)) {
      const now = new Date();
      // What is used is not swept up.
      await utimes(path, now, now);
      return path;
    }
    const making = await this.fresh(content);
    if (making !== null) renameSync(making, path);
    return making && path;
  }

  /** @returns a file of the caller's own, who takes it away again; null as above */
  async fresh(content: Content): Promise<string | null> {
    const { hash, ending } = content;
    const sealed = await this.redis.getBuffer(this.names.content(keyOf(content)));
    if (!sealed) return null;
    const bytes = this.seal.openBytes(sealed);
    if (hashOf(bytes) !== hash) return null;
    const path = join(this.folder, `${hash}.${randomBytes(6).toString('hex')}${ending}`);
    await writeFile(path, bytes);
    return path;
  }
}

function hashOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex');
}
