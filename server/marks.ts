import { writeFile } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import type { MarkView } from '#core/contract/http';
import type { ToneChoice } from '#core/contract/preset';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { failure, success, type Result } from '#core/result';
import type { MarkRow } from './db/marks.ts';
import type { Tables } from './db/tables.ts';
import { pngOfRaster } from './imaging/pngOfRaster.ts';
import { importArtwork } from './imaging/raster/importArtwork.ts';
import { loadArtwork, type ArtworkFile } from './imaging/raster/loadArtwork.ts';
import { Rasteriser } from './imaging/raster/rasteriser.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** The library of marks: rows in the database, artwork as files that never change once written. */
export class Marks {
  constructor(
    private readonly tables: Tables,
    private readonly paths: DataPaths,
    private readonly rasteriser: Rasteriser,
  ) {}

  list(): MarkView[] {
    return this.tables.marks.all().map((row) => this.view(row));
  }

  view(row: MarkRow): MarkView {
    const { id, name, version, kind, ink, notes, retired } = row;
    const usedBy = this.tables.presets.namesUsingMark(id);
    return { id, name, version, kind, ink, notes, retired, usedBy };
  }

  async add(bytes: Uint8Array, fileName: string): Promise<Result<number>> {
    // A drawing process of its own: a file that takes long does not hold up the page's pictures,
    // and what it took of memory is given back.
    const intake = new Rasteriser();
    const imported = await importArtwork(bytes, intake).finally(() => intake.close());
    if (!imported.ok) return imported;
    const { artwork, notes } = imported.value;
    const id = this.tables.marks.insert({
      name: nameFromFile(fileName),
      kind: artwork.kind,
      natural: artwork.natural,
      ink: artwork.ink,
      notes: [...notes],
    });
    const content = artwork.kind === 'svg' ? artwork.svg : artwork.png;
    await writeFile(this.paths.artwork(id, 1, artwork.kind), content);
    return success(id);
  }

  /** The artwork of a version; versions stay on disk, so a run goes on with the one it began with. */
  artworkFile(row: MarkRow, version = row.version): ArtworkFile {
    const { id, kind, natural, ink } = row;
    return { path: this.paths.artwork(id, version, kind), kind, natural, ink };
  }

  /** A picture of the ink box for the page, `widthPx` wide. */
  async picture(row: MarkRow, tone: ToneChoice, widthPx: number): Promise<Result<Buffer>> {
    const height = Math.max(1, Math.round((widthPx * row.ink.height) / row.ink.width));
    const spec = {
      width: widthPx,
      height,
      centreX: widthPx / 2,
      centreY: height / 2,
      markWidth: widthPx,
      markHeight: height,
      rotation: 0,
    };
    const { key, artwork } = loadArtwork(this.artworkFile(row));
    const raster = await this.rasteriser.raster(key, artwork, spec, tone);
    return raster.ok ? success(await pngOfRaster(raster.value)) : raster;
  }

  /** Why a mark cannot be deleted, or nothing. */
  removable(row: MarkRow): Result<void> {
    const presets = this.tables.presets.namesUsingMark(row.id);
    if (presets.length > 0) {
      return failure(`${row.name} is used by ${presets.join(', ')}. Retire it instead.`);
    }
    if (this.tables.marks.isUsedByRun(row.id)) {
      return failure(`${row.name} was used by a run that is still listed. Retire it instead.`);
    }
    return success(undefined);
  }
}

function nameFromFile(fileName: string): string {
  const stem = basename(fileName, extname(fileName)).replace(/[-_]+/g, ' ').trim();
  const name = stem.charAt(0).toUpperCase() + stem.slice(1);
  return name.slice(0, NAME_MAX_LENGTH) || 'Mark';
}
