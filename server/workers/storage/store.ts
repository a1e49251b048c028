import { createHash, randomBytes } from 'node:crypto';
import { mkdirSync } from 'node:fs';
import { access, constants, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import type { SharedPlace } from '../roots.ts';
import type { Objects } from './objects.ts';
import {
  Refused,
  type HandingStorage,
  type SourceFile,
  type TakingStorage,
  type WorkerFile,
} from './passStorage.ts';

/** In place of the name of a root; none can be called so. */
export const STORE_ROOT = 's3:';

const nothing = (): Promise<void> => Promise.resolve();
const keyOf = ({ path }: SharedPlace, name: string): string => `${path}/${name}`;

/** A store that took no photo is left alone for so long; one that is silent holds each up for seconds. */
export const STORE_REST_MS = 10_000;

/** Photos are put into a store for as long as their pass lasts, and outputs come back from it. */
export class HandingStore implements HandingStorage {
  /** Stems whose objects could not be removed when the store was away: they go with the next. */
  private readonly unswept = new Set<string>();
  private restUntilMs = -Infinity;
  /** Photos on their way, by their keys: one that takes long is asked for again meanwhile. */
  private readonly offering = new Map<string, Promise<void>>();
  /** Why it took no photo the last time; null: it did. */
  problem: string | null = null;

  constructor(
    private readonly objects: Pick<Objects, 'put' | 'size' | 'get' | 'remove' | 'removeBelow'>,
  ) {}

  /** Null while it rests. */
  sourceAt(stem: string, { path, bytes, modifiedMs }: SourceFile): SharedPlace | null {
    if (performance.now() < this.restUntilMs) return null;
    // Another version of a photo is another object.
    const said = createHash('sha256').update(`${path}|${bytes}|${modifiedMs}`).digest('hex');
    const ending = extname(path).toLowerCase();
    return { root: STORE_ROOT, path: `${stem}/source-${said.slice(0, 16)}${ending}` };
  }

  outputsAt(stem: string): SharedPlace {
    return { root: STORE_ROOT, path: stem };
  }

  async offer({ path: key }: SharedPlace, source: SourceFile): Promise<void> {
    // A photo that cannot be read says nothing of the store.
    await access(source.path, constants.R_OK);
    const going = this.offering.get(key) ?? this.putOnce(key, source);
    this.offering.set(key, going);
    await going;
  }

  takeBack({ path }: SharedPlace): Promise<void> {
    return this.objects.remove(path);
  }

  async collect(place: SharedPlace, name: string, bytes: number, path: string): Promise<boolean> {
    if ((await this.objects.get(keyOf(place, name), path)) !== bytes) return false;
    await this.discard(place, name);
    return true;
  }

  /** What is not gone now goes when its run is swept up. */
  discard(place: SharedPlace, name: string): Promise<void> {
    return this.objects.remove(keyOf(place, name)).catch(() => undefined);
  }

  async sweep(stem: string): Promise<void> {
    this.unswept.add(stem);
    for (const left of this.unswept) {
      await this.objects.removeBelow(left);
      this.unswept.delete(left);
    }
  }

  private async putOnce(key: string, { path, bytes }: SourceFile): Promise<void> {
    try {
      if ((await this.objects.size(key)) !== bytes) await this.objects.put(key, path);
      this.problem = null;
    } catch (error) {
      this.problem = (error as Error).message;
      this.restUntilMs = performance.now() + STORE_REST_MS;
      throw error;
    } finally {
      this.offering.delete(key);
    }
  }
}

export class TakingStore implements TakingStorage {
  /** @param folder of this machine, for what is in work */
  constructor(
    private readonly objects: Objects,
    private readonly folder: string,
  ) {
    mkdirSync(folder, { recursive: true });
  }

  async source({ path: key }: SharedPlace, bytes: number): Promise<WorkerFile> {
    const file = this.ownFile(extname(key));
    if ((await this.objects.get(key, file.path)) !== bytes) {
      await file.giveBack();
      throw new Refused('The photo is not in the store as the server put it there.');
    }
    return file;
  }

  output(place: SharedPlace, name: string): Promise<WorkerFile> {
    const file = this.ownFile(extname(name));
    const deliver = (signal: AbortSignal) =>
      this.objects.put(keyOf(place, name), file.path, signal);
    return Promise.resolve({ ...file, deliver });
  }

  remove(place: SharedPlace, name: string): Promise<void> {
    return this.objects.remove(keyOf(place, name));
  }

  private ownFile(ending: string): WorkerFile {
    const path = join(this.folder, `${randomBytes(8).toString('hex')}${ending}`);
    return { path, deliver: nothing, giveBack: () => rm(path, { force: true }) };
  }
}
