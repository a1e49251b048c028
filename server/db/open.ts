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
  emptyLog(db);
  return db;
}

/**
 * What was made anew lies in the log as well, and a small disk has room for one of them. On a full one
 * it stays: everything can be read all the same.
 */
function emptyLog(db: Db): void {
  try {
    db.pragma('wal_checkpoint(TRUNCATE)');
  } catch (error) {
    if (!String((error as { code?: unknown }).code).startsWith('SQLITE_')) throw error;
  }
}

/** The version that a database has which this program has opened. */
export function databaseVersion(): number {
  return readMigrations().length;
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
      const before = withoutTheirs(db);
      db.exec(migration.sql);
      if (withoutTheirs(db) > before) {
        throw new Error(`${migration.name} leaves rows without those they refer to.`);
      }
      db.pragma(`user_version = ${migration.number}`);
    })();
  }
}

/** How many rows refer to one that is not there. Only what a migration adds to them is its own. */
function withoutTheirs(db: Db): number {
  return (db.pragma('foreign_key_check') as unknown[]).length;
}
