import { z } from 'zod';

/** What lies in a backup: the same folders as in a data folder, the database, and a note about itself. */

export const BACKUP_FORMAT = Object.freeze({ format: 'light-crest/backup', version: 1 } as const);

export const NOTE_NAME = 'light-crest-backup.json';
export const DATABASE_NAME = 'light-crest.sqlite';

/** Folders of a data folder that are backed up; what is just coming in is not. */
export const BACKUP_FOLDERS = [
  ...['photos', 'previews', 'marks', 'scans', 'parts', 'fonts', 'exports'],
] as const;

export const backupNoteSchema = z.strictObject({
  format: z.literal(BACKUP_FORMAT.format),
  version: z.literal(BACKUP_FORMAT.version),
  /** ISO 8601. */
  made_at: z.string(),
  /** Version of the database. */
  database: z.number().int().positive(),
  /** Photos that are read where they lie, outside of the data folder: they are not in the backup. */
  photos_elsewhere: z.number().int().min(0),
});
export type BackupNote = z.infer<typeof backupNoteSchema>;

/** Whether a name in a backup is one of a file that belongs into a data folder. */
export function isBackedUp(name: string): boolean {
  if (name === DATABASE_NAME) return true;
  const [folder, ...rest] = name.split('/');
  const isFile = rest.length > 0 && rest.every((part) => part !== '' && !/^\.{1,2}$/.test(part));
  return isFile && (BACKUP_FOLDERS as readonly string[]).includes(folder);
}
