import type { InboxRow } from '../db/inboxes.ts';
import type { Tables } from '../db/tables.ts';
import { isWithin } from '../storage/allowedFolders.ts';
import { baseFolder, togetherProblem } from './inboxRun.ts';

type WishedInbox = Omit<InboxRow, 'createdAt'>;

/**
 * Why an inbox cannot be as it is wished, or null: a folder within the data, one that another inbox
 * watches, or one that is written to.
 *
 * @param exportsFolder where Light Crest writes what has no folder of its own
 */
export function inboxProblem(
  inbox: WishedInbox,
  tables: Pick<Tables, 'inboxes' | 'deliveries'>,
  exportsFolder: string,
): string | null {
  const { folder } = inbox;
  if (isWithin(exportsFolder, folder) || isWithin(folder, exportsFolder)) {
    return `${folder} is where Light Crest writes itself. Choose another folder.`;
  }
  const all = tables.inboxes.all();
  for (const other of all) {
    const meets = isWithin(other.folder, folder) || isWithin(folder, other.folder);
    if (other.id !== inbox.id && meets) return `${other.name} watches ${other.folder} already.`;
  }
  for (const { aside, folder: watched } of movers(inbox, all)) {
    if (aside === null || !isWithin(watched, aside)) continue;
    return `${aside} lies in a watched folder: what is moved there would be taken in again.`;
  }
  for (const id of inbox.deliveryIds) {
    const delivery = tables.deliveries.get(id);
    if (!delivery) continue;
    const together = togetherProblem([delivery]);
    if (together !== null) return together;
    const out = baseFolder(delivery, inbox, exportsFolder);
    if (isWithin(folder, out)) {
      return `${delivery.name} writes into ${out}: what is written there would be taken in again.`;
    }
  }
  return null;
}

/** Each way in which what one of the folders moves aside may come to be watched by the other. */
function movers(
  inbox: WishedInbox,
  all: readonly InboxRow[],
): readonly { readonly aside: string | null; readonly folder: string }[] {
  const others = all.filter(({ id }) => id !== inbox.id);
  const { aside, folder } = inbox;
  return [
    { aside, folder },
    ...others.flatMap((other) => [
      { aside, folder: other.folder },
      { aside: other.aside, folder },
    ]),
  ];
}
