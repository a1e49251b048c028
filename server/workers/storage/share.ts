import { access, constants, rename, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import type { Roots, SharedPlace } from '../roots.ts';
import {
  Refused,
  type HandingStorage,
  type SourceFile,
  type TakingStorage,
  type WorkerFile,
} from './passStorage.ts';

/** A share tells of a new file after a moment. */
const LOOKS = 8;
const LOOK_EACH_MS = 400;

const nothing = (): Promise<void> => Promise.resolve();

/** Folders that all machines have mounted: each file lies where it is needed already. */
export class HandingShare implements HandingStorage {
  readonly offer = nothing;
  readonly takeBack = nothing;
  /** What lies in the folders of a run is taken away with what else it left there. */
  readonly sweep = nothing;

  constructor(private readonly roots: Roots) {}

  sourceAt(_stem: string, { path }: SourceFile): SharedPlace | null {
    return this.roots.placeOf(path);
  }

  outputsAt(_stem: string, folder: string): SharedPlace | null {
    return this.roots.placeOf(folder);
  }

  async collect(place: SharedPlace, name: string, bytes: number, path: string): Promise<boolean> {
    const made = this.pathOf(place, name);
    if (made === null || !(await isThere(made, bytes))) return false;
    await rename(made, path);
    return true;
  }

  async discard(place: SharedPlace, name: string): Promise<void> {
    const made = this.pathOf(place, name);
    if (made !== null) await rm(made, { force: true });
  }

  private pathOf(place: SharedPlace, name: string): string | null {
    const folder = this.roots.pathOf(place);
    return folder && join(folder, name);
  }
}

export class TakingShare implements TakingStorage {
  constructor(private readonly roots: Roots) {}

  /** A share that is not mounted here says nothing about the photo. */
  async source(place: SharedPlace, bytes: number): Promise<WorkerFile> {
    const path = this.roots.pathOf(place);
    const found = path === null ? null : await stat(path).catch(() => null);
    if (path === null || found?.size !== bytes) {
      const name = basename(place.path);
      throw new Refused(`${name} is not below ${place.root} here as the server sees it.`);
    }
    return { path, deliver: nothing, giveBack: nothing };
  }

  async output(place: SharedPlace, name: string): Promise<WorkerFile> {
    const folder = this.roots.pathOf(place);
    const isWritable =
      folder !== null &&
      (await access(folder, constants.W_OK).then(
        () => true,
        () => false,
      ));
    if (folder === null || !isWritable) {
      throw new Refused(`${place.root}/${place.path} cannot be written to here.`);
    }
    return { path: join(folder, name), deliver: nothing, giveBack: nothing };
  }

  async remove(place: SharedPlace, name: string): Promise<void> {
    const folder = this.roots.pathOf(place);
    if (folder !== null) await rm(join(folder, name), { force: true });
  }
}

async function isThere(path: string, bytes: number): Promise<boolean> {
  for (let look = 1; ; look++) {
    const found = await stat(path).catch(() => null);
    if (found?.size === bytes) return true;
    if (look === LOOKS) return false;
    await delay(LOOK_EACH_MS);
  }
}
