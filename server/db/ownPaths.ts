import { join } from 'node:path';
import { isWithin } from '../storage/allowedFolders.ts';
import type { Db } from './open.ts';

/**
 * Paths into the data folder are stored as what lies below it, so that the folder can be copied to
 * another place or computer and opened there.
 */
export interface OwnPaths {
  readonly stored: (path: string) => string;
  readonly resolved: (text: string) => string;
}

/** No absolute path of any system begins like this. */
const BELOW_DATA = 'data:';

export function ownPaths(dataFolder: string): OwnPaths {
  return {
    stored: (path) =>
      isWithin(dataFolder, path) ? BELOW_DATA + path.slice(dataFolder.length + 1) : path,
    resolved: (text) =>
      text.startsWith(BELOW_DATA) ? join(dataFolder, text.slice(BELOW_DATA.length)) : text,
  };
}

const COPY = /^(.*)[/\\](photos[/\\]\d+(?:\.\w+)?)$/;

/**
 * Rows of before paths were stored so. Where the data folder was is told by the copies in it, also
 * if it has been moved since.
 */
export function storeBelowData(db: Db, dataFolder: string): void {
  const copies = db
    .prepare<[], { id: number; path: string }>(
      `SELECT id, path FROM photos WHERE origin = 'copied' AND path NOT LIKE '${BELOW_DATA}%'`,
    )
    .all();
  const roots = new Set([dataFolder]);
  const setPhoto = db.prepare('UPDATE photos SET path = ? WHERE id = ?');
  db.transaction(() => {
    for (const { id, path } of copies) {
      const match = COPY.exec(path);
      if (!match) continue;
      roots.add(match[1]);
      setPhoto.run(BELOW_DATA + match[2], id);
    }
    for (const root of roots) {
      for (const [table, column] of [
        ['run_items', 'source_path'],
        ['run_items', 'output'],
        ['run_deliveries', 'folder'],
        ['deliveries', 'folder'],
      ]) {
        db.prepare(
          `UPDATE ${table} SET ${column} = '${BELOW_DATA}' || substr(${column}, length(@root) + 2)
           WHERE substr(${column}, 1, length(@root) + 1) IN (@root || '/', @root || char(92))`,
        ).run({ root });
      }
    }
  })();
}
