import { bleedOf, NO_BLEED } from '#core/compose/rasterPlan';
import type { MarkView } from '#core/contract/http';
import { failure, success, type Result } from '#core/result';
import type { MarkRow } from './db/markRows.ts';
import type { Tables } from './db/tables.ts';
import { artworkOrigin } from './newArtwork.ts';
import { tokensOfMark } from './wordsOfMark.ts';

/** A mark as the page knows it. */
export function markView(row: MarkRow, tables: Tables): MarkView {
  const { id, name, version, kind, ink, notes, retired, origin, box, isPending } = row;
  const artwork = artworkOrigin(origin);
  const scanId = artwork.kind === 'paper' ? artwork.scanId : null;
  return {
    ...{ id, name, version, kind, ink, notes, retired, box, isPending },
    bleed: origin.kind === 'design' ? bleedOf(ink, row.natural) : NO_BLEED,
    tokens: tokensOfMark(row),
    usedBy: tables.presets.namesUsingMark(id),
    origin: origin.kind,
    scanId: scanId !== null && tables.scans.get(scanId) ? scanId : null,
  };
}

/** Why a mark cannot be deleted, or nothing. */
export function removableMark(row: MarkRow, { presets, marks }: Tables): Result<void> {
  const using = presets.namesUsingMark(row.id);
  if (using.length > 0) {
    return failure(`${row.name} is used by ${using.join(', ')}. Retire it instead.`);
  }
  if (marks.isUsedByRun(row.id)) {
    return failure(`${row.name} was used by a run that is still listed. Retire it instead.`);
  }
  return success(undefined);
}
