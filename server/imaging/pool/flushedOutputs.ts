import { failure, type Result } from '#core/result';
import { flushFile } from '../../storage/atomicWrite.ts';
import { storageSentence } from '../../storage/storageErrors.ts';
import type { RenderedOutput, RenderJob } from '../pass/renderJob.ts';

/**
 * What a process wrote, made safe on disk. The disk is waited for here, so that the process goes on with the
 * next photo meanwhile.
 */
export function flushedOutputs(
  { outputs }: RenderJob,
  made: readonly Result<RenderedOutput>[],
): Promise<Result<RenderedOutput>[]> {
  return Promise.all(
    made.map(async (one, index) => {
      const { temporaryPath } = outputs[index];
      const error = one.ok
        ? await flushFile(temporaryPath).catch((thrown: unknown) => thrown)
        : null;
      return error ? failure(storageSentence(temporaryPath, error)) : one;
    }),
  );
}
