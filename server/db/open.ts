import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { PROJECT_FOLDER } from '../projectFolder.ts';
import { storeBelowData } from './ownPaths.ts';

export type Db = Database.Database;

const BUSY_TIMEOUT_MS = 5_000;
const migrationsFolder = join(PROJECT_FOLDER, 'server/db/migrations');

/** Opens the database of a data folder and brings it up to date. */
export function openDatabase(path: string, dataFolder: string): Db {
  const db = new Database(path);
  db.pragma('journal_mode = WAL');
  // With FULL, a committed row survives a power cut; rows say which outputs are finished.
  db.pragma('synchronous = FULL');
  db.pragma(`busy_timeout = ${BUSY_TIMEOUT_MS}`);
  // A table that is made anew would take the rows with it that refer to it.
  db.pragma('foreign_keys = OFF');
  migrate(db, readMigrations());
  db.pragma('foreign_keys = ON');
  storeBelowData(db, dataFolder);
  // What was made anew lies in the log as well, which may be all there is room for on a full disk.
  db.pragma('wal_checkpoint(TRUNCATE)');
  return db;
}

interface Migration {
  readonly number: number;
  readonly name: string;
  readonly sql: string;
}

function readMigrations(): Migration[] {
  const names = readdirSync(migrationsFolder)
    .filter((name) => name.endsWith('.sql'))
    .sort();
  return names.map((name, index) => {
    const number = Number(name.slice(0, 3));
    if (number !== index + 1) {
      throw new Error(`Expected migration ${index + 1}, found ${name}: numbers have no gaps.`);
    }
    return { number, name, sql: readFileSync(`${migrationsFolder}/${name}`, 'utf8') };
  });
}

function migrate(db: Db, migrations: readonly Migration[]): void {
  const version = Number(db.pragma('user_version', { simple: true }));
  if (version > migrations.length) {
    throw new Error(
      `Expected a database of version ${migrations.length} or older, found ${version}: ` +
        'it was written by a newer Light Crest.',
    );
  }
  for (const migration of migrations.slice(version)) {
    db.transaction(() => {
      db.exec(migration.sql);
      const [broken] = db.pragma('foreign_key_check') as { table: string }[];
      if (broken)
        throw new Error(`${migration.name} leaves rows of ${broken.table} without theirs.`);
      db.pragma(`user_version = ${migration.number}`);
    })();
  }
}
