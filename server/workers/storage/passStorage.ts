import type { SharedPlace } from '../roots.ts';

/**
 * How photos come to workers and outputs come back. There are two ways, and a file is spoken of by one of
 * them: a folder that all machines share, and a store of objects.
 */

/** A photo as the server has it. */
export interface SourceFile {
  readonly path: string;
  readonly bytes: number;
  readonly modifiedMs: number;
}

/** The server's side. */
export interface HandingStorage {
  /** How workers find a photo; null: not by this way. */
  sourceAt(stem: string, source: SourceFile): SharedPlace | null;
  /** Where workers put what goes into a folder; null: not by this way. */
  outputsAt(stem: string, folder: string): SharedPlace | null;
  /** Sees to it that workers find a photo. */
  offer(place: SharedPlace, source: SourceFile): Promise<void>;
  /** Takes back what was offered. */
  takeBack(place: SharedPlace): Promise<void>;
  /**
   * What a worker made comes to be a file of this machine, on the disk whole.
   *
   * @returns whether it was there, with as many bytes
   */
  collect(place: SharedPlace, name: string, bytes: number, path: string): Promise<boolean>;
  discard(place: SharedPlace, name: string): Promise<void>;
  /** Takes away what is left of all passes whose stems begin so, but for what lies in shared folders. */
  sweep(stem: string): Promise<void>;
}

/** A file of a pass at a worker, until it is given back. */
export interface WorkerFile {
  readonly path: string;
  /** Of an output: sees to it that the server finds it, whole or not at all. */
  readonly deliver: (signal: AbortSignal) => Promise<void>;
  /** Takes away what is this worker's own; what was delivered stays. */
  readonly giveBack: () => Promise<void>;
}

/** The worker's side. */
export interface TakingStorage {
  /** @throws Refused where it is not there as the server sees it */
  source(place: SharedPlace, bytes: number): Promise<WorkerFile>;
  /** @throws Refused where nothing can be written there */
  output(place: SharedPlace, name: string): Promise<WorkerFile>;
  /** Takes away what was delivered. */
  remove(place: SharedPlace, name: string): Promise<void>;
}

/** A pass cannot be made by this worker; it may be by another. It says nothing of the photo. */
export class Refused extends Error {}
