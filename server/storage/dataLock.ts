import { readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import Database from 'better-sqlite3';

/**
 * One server a data folder: two would work off the same runs twice. The lock is a transaction on a
 * database of its own, so the system lets go of it even when the server is killed.
 */
export interface DataLock {
  readonly setAddress: (address: string) => Promise<void>;
  readonly release: () => void;
}

/** The lock, or the address of the server that holds it. */
export function lockData(dataFolder: string): DataLock | { readonly heldBy: string } {
  const addressFile = join(dataFolder, 'address');
  const db = new Database(join(dataFolder, 'lock.sqlite'), { timeout: 0 });
  try {
    db.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    db.close();
    if ((error as { code?: string }).code !== 'SQLITE_BUSY') throw error;
    return { heldBy: readAddress(addressFile) };
  }
  return {
    setAddress: (address) => writeFile(addressFile, address),
    release: () => db.close(),
  };
}

function readAddress(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    return 'an address it has not told yet';
  }
}
