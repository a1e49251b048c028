import { mkdirSync } from 'node:fs';
import { resolve } from 'node:path';
import { readConfig } from '#server/config';
import { stageRestore } from '#server/backup/stageRestore';
import { takeUpRestore } from '#server/backup/takeUpRestore';
import { lockData } from '#server/storage/dataLock';
import { CallError, EXIT } from '../exit.ts';

/**
 * Puts a backup in the place of the application's own data, and keeps what was there. Where a server is at
 * work on that, the backup is laid ready and taken up at its next start.
 */
export async function restore(file: string): Promise<number> {
  const { dataFolder } = readConfig();
  mkdirSync(dataFolder, { recursive: true });
  const staged = await stageRestore(resolve(file), dataFolder);
  if (!staged.ok) throw new CallError(staged.reason);
  const madeAt = staged.value.made_at.slice(0, 'YYYY-MM-DD'.length);
  const lock = lockData(dataFolder);
  if ('heldBy' in lock) {
    process.stderr.write(
      `light-crest: The backup of ${madeAt} lies ready. Light Crest is at work (${lock.heldBy}): ` +
        'end it and start it again, and it goes on with the backup.\n',
    );
    return EXIT.done;
  }
  try {
    const before = takeUpRestore(dataFolder)?.before;
    process.stderr.write(`light-crest: The data is that of the backup of ${madeAt}.\n`);
    if (before) process.stderr.write(`light-crest: What was there is kept in ${before}.\n`);
    return EXIT.done;
  } finally {
    lock.release();
  }
}
