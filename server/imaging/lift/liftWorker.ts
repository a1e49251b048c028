import { fileURLToPath } from 'node:url';
import type { LiftSettings } from '#core/contract/lift';
import { failure, type Result } from '#core/result';
import { KillableWorker } from '../childProcess.ts';
import { messageOf } from '../imageErrors.ts';
import { LIFT_TIMEOUT_MS } from '../limits.ts';
import type { LiftedFile } from './liftFile.ts';

export interface LiftRequest {
  readonly path: string;
  readonly settings: LiftSettings;
}

const processPath = fileURLToPath(new URL('./liftProcess.ts', import.meta.url));
let worker: KillableWorker<LiftRequest, Result<LiftedFile>> | null = null;

/** Lifts the ink of a scan in a process of its own. */
export async function liftScan(request: LiftRequest): Promise<Result<LiftedFile>> {
  worker ??= new KillableWorker(processPath, LIFT_TIMEOUT_MS);
  try {
    return await worker.ask(request);
  } catch (error) {
    return failure(`The scan could not be lifted (${messageOf(error)}).`);
  }
}
