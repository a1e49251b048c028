import type { SharedPlace } from '../roots.ts';
import type { HandingStorage, SourceFile, TakingStorage } from './passStorage.ts';
import { STORE_ROOT } from './store.ts';

/** All ways there are: what lies in a shared folder need not travel, and the rest goes by the store. */
export interface Ways<T> {
  readonly share: T;
  /** Null: none was named. */
  readonly store: T | null;
}

/** The one by which a place is reached. */
export function wayOf<T>(ways: Ways<T>, { root }: SharedPlace): T {
  return root === STORE_ROOT && ways.store ? ways.store : ways.share;
}

export type HandingWays = Ways<HandingStorage>;
export type TakingWays = Ways<TakingStorage>;

export function sourceAt(
  { share, store }: HandingWays,
  stem: string,
  source: SourceFile,
): SharedPlace | null {
  return share.sourceAt(stem, source) ?? store?.sourceAt(stem, source) ?? null;
}

export function outputsAt(
  { share, store }: HandingWays,
  stem: string,
  folder: string,
): SharedPlace | null {
  return share.outputsAt(stem, folder) ?? store?.outputsAt(stem, folder) ?? null;
}
