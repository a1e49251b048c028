import { existsSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { dirname, resolve } from 'node:path';
import { readConfig } from '#server/config';
import { writeBackup } from '#server/backup/writeBackup';
import { dataPaths } from '#server/storage/dataPaths';
import { CallError, EXIT } from '../exit.ts';
import { checkOutput } from '../outputs.ts';

export interface BackupOptions {
  readonly force?: true;
}

/** The whole of the application's own data as one ZIP; the server may be at work. */
export async function backup(file: string, { force = undefined }: BackupOptions): Promise<number> {
  const { dataFolder } = readConfig();
  if (!existsSync(dataPaths(dataFolder).database)) {
    throw new CallError(`expected Light Crest's data in ${dataFolder}, found none.`);
  }
  await checkOutput(file, { sources: [], force: force ?? false });
  const target = resolve(file);
  await mkdir(dirname(target), { recursive: true }).catch(() => undefined);
  const written = await writeBackup(dataFolder, target, force ?? false);
  if (!written.ok) throw new CallError(written.reason);
  const { files, photosElsewhere } = written.value;
  process.stderr.write(`light-crest: ${file} holds the database and ${files} files.\n`);
  if (photosElsewhere > 0) {
    process.stderr.write(
      `light-crest: ${photosElsewhere} photos are read where they lie, and are not in it.\n`,
    );
  }
  return EXIT.done;
}
