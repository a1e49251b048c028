import { renameSync } from 'node:fs';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import type { LiftWish, MarkBox, MarkView } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import type { PenDrawing } from '#core/contract/pen';
import type { ToneChoice } from '#core/contract/preset';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { penSvg } from '#core/pen/penOutline';
import { freeName } from '#core/placement/suggestName';
import { failure, success, type Result } from '#core/result';
import type { ArtworkRow, MarkRow } from './db/marks.ts';
import type { ScanRow } from './db/scans.ts';
import type { Tables } from './db/tables.ts';
import { liftScan } from './imaging/lift/liftWorker.ts';
import { markDrawing, markSvg } from './imaging/markFile.ts';
import { pngOfRaster } from './imaging/pngOfRaster.ts';
import { importArtwork, withoutBox, type ImportedArtwork } from './imaging/raster/importArtwork.ts';
import { BOX_TIMEOUT_MS } from './imaging/limits.ts';
import { loadArtwork, type ArtworkFile } from './imaging/raster/loadArtwork.ts';
import { Rasteriser } from './imaging/raster/rasteriser.ts';
import type { Scans } from './scans.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** A version of artwork that is not in the library yet. */
interface NewArtwork {
  readonly row: ArtworkRow;
  readonly content: string | Uint8Array;
  /** Pixels that are kept beside outlines. */
  readonly pixels: Uint8Array | null;
}

/** The library of marks: rows in the database, artwork as files that never change once written. */
export class Marks {
  private temporaries = 0;

  constructor(
    private readonly tables: Tables,
    private readonly paths: DataPaths,
    private readonly rasteriser: Rasteriser,
    private readonly scans: Scans,
  ) {}

  list(): MarkView[] {
    return this.tables.marks.all().map((row) => this.view(row));
  }

  view(row: MarkRow): MarkView {
    const { id, name, version, kind, ink, notes, retired, origin, box } = row;
    const scanId = origin.kind === 'paper' ? origin.scanId : null;
    return {
      ...{ id, name, version, kind, ink, notes, retired, box },
      usedBy: this.tables.presets.namesUsingMark(id),
      origin: origin.kind,
      scanId: scanId !== null && this.tables.scans.get(scanId) ? scanId : null,
    };
  }

  /**
   * @param markId a mark whose artwork is replaced: its presets stay; null adds a mark
   * @param page of a PDF
   */
  async add(
    bytes: Uint8Array,
    fileName: string,
    markId: number | null = null,
    page = 1,
  ): Promise<Result<number>> {
    const imported = await this.takeIn((rasteriser) => importArtwork(bytes, rasteriser, page));
    if (!imported.ok) return imported;
    const { name, box } = imported.value;
    const version = markId === null ? 1 : this.tables.marks.nextVersion(markId);
    const asked: MarkBox | null = box === null ? null : { colour: box, version, taken: null };
    return this.keep(newArtwork(imported.value, asked), name ?? nameFromFile(fileName), markId);
  }

  /** Takes the box round the artwork away, or leaves it; can be decided again at any time. */
  async decideBox(row: MarkRow, take: NonNullable<MarkBox['taken']>): Promise<Result<number>> {
    const { box } = row;
    if (!box) return failure(`${row.name} has no box round it.`);
    const decided: MarkBox = { ...box, taken: take };
    const boxed = this.tables.marks.artwork(row.id, box.version);
    if (!boxed) return failure('The artwork with the box is not there any more.');
    const png = await readFile(this.paths.artwork(row.id, box.version, 'png'));
    if (take === 'keep') {
      if (row.version === box.version) {
        this.tables.marks.setBox(row.id, row.version, decided);
        return success(row.id);
      }
      return this.keep({ row: { ...boxed, box: decided }, content: png, pixels: null }, '', row.id);
    }
    const taken = await this.takeIn(
      (rasteriser) => withoutBox(png, box.colour, take, rasteriser),
      BOX_TIMEOUT_MS,
    );
    if (!taken.ok) return taken;
    return this.keep(newArtwork({ ...taken.value, notes: [] }, decided), '', row.id);
  }

  async addDrawing(drawing: PenDrawing, name: string, markId: number | null) {
    const svg = penSvg(drawing);
    if (!svg.ok) return svg;
    return this.addOwnSvg(svg.value, { kind: 'pen', drawing }, null, name, markId);
  }

  /** Lifts the ink of a scan and keeps it: outlines where they are good, the pixels always. */
  async addLift(scan: ScanRow, wish: LiftWish): Promise<Result<number>> {
    const { page, settings, name, markId } = wish;
    const file = await this.scans.pixelsFile(scan, page);
    if (!file.ok) return file;
    const lifted = await liftScan({ path: file.value, settings });
    if (!lifted.ok) return lifted;
    const { png, svg, keepsOutlines } = lifted.value;
    const origin: MarkOrigin = { kind: 'paper', scanId: scan.id, page, settings };
    if (svg !== null && keepsOutlines) return this.addOwnSvg(svg, origin, png, name, markId);
    const imported = await this.takeIn((rasteriser) => importArtwork(png, rasteriser));
    if (!imported.ok) return imported;
    const artwork = { ...imported.value, origin, notes: [] };
    return this.keep(newArtwork(artwork, null), name, markId);
  }

  private async addOwnSvg(
    svg: string,
    origin: MarkOrigin,
    pixels: Uint8Array | null,
    name: string,
    markId: number | null,
  ): Promise<Result<number>> {
    const bytes = Buffer.from(svg);
    const imported = await this.takeIn((rasteriser) => importArtwork(bytes, rasteriser));
    if (!imported.ok) return imported;
    return this.keep({ ...newArtwork({ ...imported.value, origin }, null), pixels }, name, markId);
  }

  /**
   * A drawing process of its own: a file that takes long does not hold up the page's pictures, and
   * what it took of memory is given back.
   */
  private async takeIn<T>(
    work: (rasteriser: Rasteriser) => Promise<T>,
    timeoutMs?: number,
  ): Promise<T> {
    const intake = new Rasteriser(timeoutMs);
    return work(intake).finally(() => intake.close());
  }

  private async keep(
    { row, content, pixels }: NewArtwork,
    name: string,
    markId: number | null,
  ): Promise<Result<number>> {
    const withPixels = { ...row, hasPixels: pixels !== null };
    const { incoming } = this.paths;
    const stem = join(incoming, `artwork-${process.pid}-${++this.temporaries}`);
    const files = [{ kind: row.kind, path: `${stem}.${row.kind}`, content }];
    if (pixels) files.push({ kind: 'png', path: `${stem}.pixels`, content: pixels });
    for (const file of files) await writeFile(file.path, file.content, { flush: true });
    // Row and names together: no version is ever listed that cannot be drawn.
    return this.tables.together(() => {
      const { marks } = this.tables;
      const version = markId === null ? 1 : marks.addVersion(markId, withPixels);
      const id = markId ?? marks.insert(name.slice(0, NAME_MAX_LENGTH), withPixels);
      for (const { kind, path } of files) renameSync(path, this.paths.artwork(id, version, kind));
      return success(id);
    });
  }

  /** A second mark with the same artwork, under a name of its own. */
  async duplicate(row: MarkRow): Promise<number> {
    const taken = this.tables.marks.all().map(({ name }) => name);
    const content = await readFile(this.paths.artwork(row.id, row.version, row.kind));
    const pixels = row.hasPixels
      ? await readFile(this.paths.artwork(row.id, row.version, 'png'))
      : null;
    const box = row.box && { ...row.box, version: 1 };
    const ownBox = row.box?.version === row.version ? box : null;
    const kept = await this.keep(
      { row: { ...row, box: ownBox }, content, pixels },
      freeName(row.name, taken),
      null,
    );
    if (!kept.ok) throw new Error(kept.reason);
    return kept.value;
  }

  /** The artwork of a version; versions stay on disk, so a run goes on with the one it began with. */
  artworkFile(row: MarkRow, version = row.version): ArtworkFile {
    const art = version === row.version ? row : this.tables.marks.artwork(row.id, version);
    const { kind, natural, ink } = art ?? row;
    return { path: this.paths.artwork(row.id, version, kind), kind, natural, ink };
  }

  /** A picture of the ink box, `widthPx` wide, with a transparent ground. */
  async picture(row: MarkRow, tone: ToneChoice, widthPx: number): Promise<Result<Buffer>> {
    const raster = await markDrawing(
      loadArtwork(this.artworkFile(row)),
      tone,
      widthPx,
      this.rasteriser,
    );
    return raster.ok ? success(await pngOfRaster(raster.value)) : raster;
  }

  /** The same, drawn once and kept: a version of artwork never changes. */
  async keptPicture(row: MarkRow, tone: ToneChoice, widthPx: number): Promise<Result<Buffer>> {
    const folder = this.paths.markPictures(row.id);
    const path = join(folder, `${row.version}-${tone.replace('#', '')}-${widthPx}.png`);
    const kept = await readFile(path).catch(() => null);
    if (kept) return success(kept);
    const picture = await this.picture(row, tone, widthPx);
    if (!picture.ok) return picture;
    const beside = join(this.paths.incoming, `picture-${process.pid}-${++this.temporaries}`);
    await mkdir(folder, { recursive: true });
    await writeFile(beside, picture.value);
    await rename(beside, path);
    return picture;
  }

  /** The mark as an SVG that opens anywhere and holds what is needed to take it up again. */
  svg(row: MarkRow, tone: ToneChoice): Promise<string> {
    return markSvg(loadArtwork(this.artworkFile(row)).artwork, tone, {
      format: 'light-crest/mark',
      version: 1,
      name: row.name,
      origin: row.origin,
    });
  }

  /** Removes the mark with all versions of its artwork. */
  async remove(row: MarkRow): Promise<void> {
    const newest = this.tables.marks.nextVersion(row.id) - 1;
    this.tables.marks.remove(row.id);
    await rm(this.paths.markPictures(row.id), { recursive: true, force: true });
    for (let version = 1; version <= newest; version++) {
      for (const kind of ['svg', 'png'] as const) {
        await rm(this.paths.artwork(row.id, version, kind), { force: true });
      }
    }
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

function newArtwork({ artwork, notes, origin }: ImportedArtwork, box: MarkBox | null): NewArtwork {
  const { kind, natural, ink } = artwork;
  return {
    row: { kind, natural, ink, notes, origin, box, hasPixels: false },
    content: artwork.kind === 'svg' ? artwork.svg : artwork.png,
    pixels: null,
  };
}

function nameFromFile(fileName: string): string {
  const stem = basename(fileName, extname(fileName)).replace(/[-_]+/g, ' ').trim();
  const name = stem.charAt(0).toUpperCase() + stem.slice(1);
  return name.slice(0, NAME_MAX_LENGTH) || 'Mark';
}
