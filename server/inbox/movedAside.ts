import type { InboxFile, InboxRow } from '../db/inboxes.ts';
import type { Tables } from '../db/tables.ts';
import { moveAside } from '../storage/moveAside.ts';

/**
 * Photos of watched folders that cannot be read, where they are to be moved out of the way. Each is
 * listed before it is moved, so that one whose server ends in between is moved by the next.
 */
export class MovedAside {
  /** Those that were moved, or could not be, since the server began. */
  private readonly tried = new Set<string>();

  constructor(private readonly tables: Pick<Tables, 'inboxes'>) {}

  /** Whether a photo that lies in its folder is still to be moved. */
  isDue(inboxId: number, { name, problem, hash }: InboxFile): boolean {
    if (problem === null || this.tried.has(keyOf(inboxId, name, hash))) return false;
    return (this.tables.inboxes.get(inboxId)?.aside ?? null) !== null;
  }

  /** Moves it where that is asked for, and notes where it is now, or why it could not be moved. */
  async move(inbox: InboxRow, file: InboxFile, path: string): Promise<void> {
    if (inbox.aside === null || !this.isDue(inbox.id, file)) return;
    this.tried.add(keyOf(inbox.id, file.name, file.hash));
    const moved = await moveAside(path, inbox.aside, file.name);
    const told = moved.ok ? `It was moved to ${moved.value}.` : moved.reason;
    this.tables.inboxes.putFile(inbox.id, { ...file, problem: `${file.problem} ${told}` });
  }
}

function keyOf(inboxId: number, name: string, hash: string): string {
  return `${inboxId}/${hash}/${name}`;
}
