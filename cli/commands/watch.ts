import { realpath, stat } from 'node:fs/promises';
import { resolve } from 'node:path';
import { Imaging } from '#server/imaging/pool/imaging';
import { isWithin } from '#server/storage/allowedFolders';
import { realPath } from '#server/storage/realPath';
import { CallError, EXIT } from '../exit.ts';
import { WatchedInbox, type WatchOptions } from '../watchedInbox.ts';
import { openOutFolder } from './outFolder.ts';

/**
 * Exports what appears in a folder, until it is ended: each photo once it rests, once for its content and
 * place, also when it is begun again after a crash. Subfolders are mirrored.
 */
export async function watch(given: string, options: WatchOptions): Promise<number> {
  const inbox = await realpath(resolve(given)).catch(() => null);
  if (inbox === null || !(await stat(inbox)).isDirectory()) {
    throw new CallError(`expected a folder to watch, found none at ${given}.`);
  }
  await refuseLoop(inbox, given, '--out', options.out);
  if (options.moveFailed !== undefined) {
    await refuseLoop(inbox, given, '--move-failed', options.moveFailed);
    await openOutFolder(options.moveFailed);
  }
  const imaging = new Imaging();
  let watched: WatchedInbox | null = null;
  try {
    watched = await WatchedInbox.open(inbox, given, options, imaging);
    process.stderr.write(`light-crest: watching ${given}. Ctrl+C ends it.\n`);
    await watched.untilEnded();
    return watched.failed > 0 ? EXIT.someFailed : EXIT.done;
  } finally {
    watched?.close();
    imaging.close();
  }
}

/** What is written into the folder would be taken in again, and again. */
async function refuseLoop(inbox: string, given: string, option: string, to: string): Promise<void> {
  if (!isWithin(inbox, await realPath(resolve(to)))) return;
  throw new CallError(
    `${option}: ${to} lies in ${given}: what is written there would be taken in again.`,
  );
}
