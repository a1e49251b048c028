import type { RunItemRow } from '../db/runItemRows.ts';
import type { Tables } from '../db/tables.ts';
import { photoPixels } from './exportPhoto.ts';
import type { PhotoToDo } from './photosInWork.ts';

/** What can be taken up. */
export interface FreeRoom {
  readonly photos: number;
  /** At once, with those in work. */
  readonly pixels: number;
  readonly pixelsInWork: number;
}

/** Marks the photos that come next as being worked on, as many as there is room for. */
export function takenUp(
  tables: Tables,
  room: FreeRoom,
  mayGoOn: (runId: number) => boolean,
): PhotoToDo[] {
  return tables.together(() => {
    const taken: PhotoToDo[] = [];
    let busy = room.pixelsInWork;
    for (const next of waiting(tables, room.photos, mayGoOn)) {
      // A photo beyond the budget waits until it can have the machine to itself.
      if (busy > 0 && busy + next.pixels > room.pixels) break;
      next.items.forEach(({ id }) => tables.items.takeUp(id));
      taken.push(next);
      busy += next.pixels;
    }
    return taken;
  });
}

/** The photos that come next, at most so many. */
function waiting(tables: Tables, most: number, mayGoOn: (runId: number) => boolean): PhotoToDo[] {
  const found: PhotoToDo[] = [];
  if (most <= 0) return found;
  for (const run of tables.runs.unfinished()) {
    if (run.state !== 'running' || !mayGoOn(run.id)) continue;
    for (const items of byPhoto(tables.items.waiting(run.id, most - found.length))) {
      found.push({ run, items, pixels: photoPixels(run, items, tables) });
    }
    if (found.length >= most) break;
  }
  return found;
}

/** Outputs in the order of the run, those of each photo together. */
function byPhoto(items: readonly RunItemRow[]): RunItemRow[][] {
  const photos: RunItemRow[][] = [];
  for (const item of items) {
    const last = photos.at(-1);
    if (last?.[0].number === item.number) last.push(item);
    else photos.push([item]);
  }
  return photos;
}
