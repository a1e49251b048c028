import { bleedOf, NO_BLEED } from '#core/compose/rasterPlan';
import type { MarkView } from '#core/contract/http';
import { designFollowsYear } from '#core/design/year';
import { failure, success, type Result } from '#core/result';
import type { MarkRow } from './db/markRows.ts';
import type { Tables } from './db/tables.ts';
import { shapeOf } from './imaging/raster/artwork.ts';
import { loadArtwork, type ArtworkFile } from './imaging/raster/loadArtwork.ts';
import { artworkOrigin } from './newArtwork.ts';

/** A mark as the page knows it. @param fileOf where its present artwork is */
export function markView(row: MarkRow, tables: Tables, fileOf: () => ArtworkFile): MarkView {
  const { id, name, version, kind, ink, notes, retired, origin, box, isPending } = row;
  const artwork = artworkOrigin(origin);
  const scanId = artwork.kind === 'paper' ? artwork.scanId : null;
  return {
    ...{ id, name, version, kind, ink, notes, retired, box, isPending },
    ...shapes(row, tables, fileOf),
    usedBy: tables.presets.namesUsingMark(id),
    origin: origin.kind,
    scanId: scanId !== null && tables.scans.get(scanId) ? scanId : null,
  };
}

/** What is drawn beyond the ink box, and the shapes of the years there are photos of. */
function shapes(
  row: MarkRow,
  tables: Tables,
  fileOf: () => ArtworkFile,
): Pick<MarkView, 'bleed' | 'years'> {
  if (row.origin.kind !== 'design') return { bleed: NO_BLEED, years: null };
  const { ink, natural } = row;
  const bleed = bleedOf(ink, natural);
  if (!designFollowsYear(row.origin.design)) return { bleed, years: null };
  const { artwork } = loadArtwork(fileOf());
  const years = [...tables.photos.years(), new Date().getFullYear()];
  return {
    bleed,
    years: Object.fromEntries(
      years.map((year) => {
        const shape = shapeOf(artwork, year);
        return [year, { ink: shape.ink, bleed: shape.bleed }];
      }),
    ),
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
