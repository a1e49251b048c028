import type { CarriedPass } from './carryPass.ts';
import type { OneAtATime } from './oneAtATime.ts';
import type { PassEnd } from './passJob.ts';
import type { Seal } from './seal.ts';

/** `lost`: no worker has made it. `nobody`: none is there who could. */
export type QueueEnd = PassEnd | 'lost' | 'nobody' | 'aborted';

/** A pass whose end a server waits for. */
export interface Pending {
  readonly carried: CarriedPass;
  readonly end: (end: QueueEnd) => void;
  /** Of the pass as it was put into the queue last; null: it is to be put there. */
  serial: string | null;
  /** Looked at, or put there, since the last second began. */
  isFresh: boolean;
  readonly putting: OneAtATime;
  /** How often it could not be put there while Redis was. */
  failures: number;
  /** Since when nobody is there who could make it; null: somebody is. */
  nobodySinceMs: number | null;
}

/** What a worker said. One that failed was under too many workers when they ended. */
export function endIn(seal: Seal, sealed: unknown): PassEnd | 'lost' {
  if (typeof sealed !== 'string') return 'lost';
  try {
    return seal.open(sealed) as PassEnd;
  } catch {
    return 'lost';
  }
}
