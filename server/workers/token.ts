import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** The token that lets workers in: made by the server, in its data folder, readable by its user alone. */

const TOKEN_BYTES = 32;
const OWNER_ONLY = 0o600;

export function tokenFile(dataFolder: string): string {
  return join(dataFolder, 'worker-token');
}

/** The token of a data folder, made when it is first asked for. */
export function ownToken(dataFolder: string): string {
  const file = tokenFile(dataFolder);
  if (!existsSync(file)) {
    const token = randomBytes(TOKEN_BYTES).toString('base64url');
    try {
      writeFileSync(file, `${token}\n`, { mode: OWNER_ONLY, flag: 'wx' });
    } catch (error) {
      // Another process was quicker.
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  }
  return readToken(file);
}

/** @throws where there is none in the file */
export function readToken(file: string): string {
  const token = readFileSync(file, 'utf8').trim();
  if (token === '') throw new Error(`Expected a token in ${file}, found nothing.`);
  return token;
}
