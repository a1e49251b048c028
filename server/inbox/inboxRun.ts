import { join } from 'node:path';
import type { Size } from '#core/placement/geometry';
import { isSameValue } from '#core/sameValue';
import { failure, success, type Result } from '#core/result';
import type { DeliveryRow } from '../db/deliveries.ts';
import type { InboxRow } from '../db/inboxes.ts';
import type { NewItem } from '../db/runItemRows.ts';
import type { NewRun, RunMark, RunRow } from '../db/runs.ts';
import type { Tables } from '../db/tables.ts';
import { placeOf } from '../runs/planPlaces.ts';
import { batchFolderName } from '../runs/runNames.ts';

/** A photo that an inbox takes. */
export interface TakenFile {
  readonly path: string;
  /** Of the file, without folders. */
  readonly fileName: string;
  /** Folders below the inbox that it lies in, with `/` between them; empty: none. */
  readonly below: string;
  readonly number: number;
  readonly size: Size;
  readonly capturedAt: string | null;
}

/** A run for the photos of one folder of an inbox, by its presets and deliveries as they are now. */
export function inboxRun(
  inbox: InboxRow,
  below: string,
  tables: Tables,
  exportsFolder: string,
): Result<NewRun> {
  const deliveries = inbox.deliveryIds.flatMap((id) => tables.deliveries.get(id) ?? []);
  if (deliveries.length === 0) return failure('Its deliveries are gone. Give it others.');
  const together = togetherProblem(deliveries);
  if (together !== null) return failure(together);
  const [first, ...over] = inbox.presetIds.flatMap((id) => markOf(id, tables));
  if (!first) return failure('Its presets are gone. Give it another.');
  const { presetId, presetName, rule, markId, markVersion } = first;
  const batchName = below === '' ? inbox.name : `${inbox.name}, ${below}`;
  return success({
    ...{ batchId: null, batchName, presetId, presetName, rule, markId, markVersion, over },
    deliveries: deliveries.map((delivery) => ({
      ...{ deliveryId: delivery.id, name: delivery.name, rule: delivery.rule },
      folder: join(baseFolder(delivery, inbox, exportsFolder), below),
      makesFolder: true,
      // It goes on for as long as the folder fills: nobody waits for its end.
      zip: false,
    })),
  });
}

/** Why an inbox cannot go by deliveries, or null: some make one thing of all photos. */
export function togetherProblem(deliveries: readonly DeliveryRow[]): string | null {
  const together = deliveries.find(({ rule }) => rule.kind !== 'files');
  if (!together) return null;
  return `${together.name} needs all photos together, and those of a watched folder come one by one.`;
}

/** Where a delivery of an inbox writes, before the folders that are mirrored below it. */
export function baseFolder(
  { folder, subfolder }: DeliveryRow,
  { name }: Pick<InboxRow, 'name'>,
  exportsFolder: string,
): string {
  const own = join(exportsFolder, batchFolderName(name));
  return placeOf(folder, subfolder, name, own).folder;
}

function markOf(presetId: number, { presets, marks }: Tables): RunMark[] {
  const preset = presets.get(presetId);
  const mark = preset && marks.get(preset.markId);
  if (!preset || !mark) return [];
  const { name: presetName, rule } = preset;
  return [{ presetId, presetName, rule, markId: mark.id, markVersion: mark.version }];
}

/** Outputs of a photo, one by each delivery of its run. */
export function itemsOf(file: TakenFile, deliveries: number): NewItem[] {
  return Array.from({ length: deliveries }, (_, index) => ({
    ...{ number: file.number, delivery: index + 1, photoId: null },
    ...{ sourcePath: file.path, sourceName: file.fileName, capturedAt: file.capturedAt },
    ...{ width: file.size.width, height: file.size.height },
    ...{ adjustment: {}, own: null, over: null },
  }));
}

/** Whether photos may still be added to a run: it says what one begun now would, and is not given up. */
export function takesMore(run: RunRow, now: NewRun): boolean {
  if (run.state === 'cancelled') return false;
  const said = ({ batchName, rule, markId, markVersion, over, deliveries }: NewRun) => {
    return { batchName, rule, markId, markVersion, over, deliveries };
  };
  return isSameDay(run.createdAt) && isSameValue(said(run), said(now));
}

function isSameDay(at: string): boolean {
  return new Date(at).toDateString() === new Date().toDateString();
}
