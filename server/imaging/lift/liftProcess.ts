import { failure } from '#core/result';
import { messageOf } from '../imageErrors.ts';
import type { LiftRequest } from './liftWorker.ts';
import { liftFile } from './liftFile.ts';

/** The process that lifts ink: a large scan takes seconds, which the server's own must not spend. */
process.on('message', ({ path, settings }: LiftRequest) => {
  liftFile(path, settings).then(
    (result) => process.send?.(result),
    (error) => process.send?.(failure(`The scan could not be lifted (${messageOf(error)}).`)),
  );
});
process.on('disconnect', () => process.exit(0));
