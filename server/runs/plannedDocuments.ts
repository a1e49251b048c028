import { failure, success, type Result } from '#core/result';
import type { RunRow } from '../db/runs.ts';
import type { WrittenDocument } from '../imaging/sheet/sheetJob.ts';
import type { ExportParts } from './exportParts.ts';
import { deliveryOf } from './runNames.ts';
import { runSheets, type SheetItem } from './sheetJob.ts';
import { runShow } from './showJob.ts';

export interface PlannedDocuments {
  /** Sheets that there are. */
  readonly count: number;
  /** Places of sheets that are a file each, or 0 for one with all. */
  readonly wanted: readonly number[];
  readonly write: (sheet: number, temporaryPath: string) => Promise<Result<WrittenDocument>>;
}

/** What is to be written of photos that were made ready. */
export function plannedDocuments(
  run: RunRow,
  ready: readonly SheetItem[],
  signal: AbortSignal,
  parts: ExportParts,
): Result<PlannedDocuments> {
  const { imaging } = parts;
  const { rule } = deliveryOf(run, ready[0]);
  if (rule.kind === 'show') {
    const show = runShow(run, ready, parts);
    if (!show.ok) return show;
    const { job, artworks } = show.value;
    return success({
      ...{ count: 1, wanted: [0] },
      write: (_, temporaryPath) => imaging.writeShow({ ...job, temporaryPath }, artworks, signal),
    });
  }
  const sheets = runSheets(run, ready, parts);
  if (!sheets.ok) return sheets;
  const { job, artworks, count } = sheets.value;
  if (count === 0) return failure('None of its photos could be made.');
  const isOne = rule.sheet.as === 'pdf';
  return success({
    count,
    wanted: isOne ? [0] : Array.from({ length: count }, (_, at) => at + 1),
    write: async (sheet, temporaryPath) => {
      const files = [{ sheet: sheet === 0 ? null : sheet - 1, temporaryPath }];
      const made = await imaging.writeSheets({ ...job, files }, artworks, signal);
      return made.ok ? success(made.value[0]) : made;
    },
  });
}
