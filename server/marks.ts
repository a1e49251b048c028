import { readFile, rm } from 'node:fs/promises';
import type { MarkBox, MarkView } from '#core/contract/http';
import type { ArtworkOrigin } from '#core/contract/origin';
import type { PenDrawing } from '#core/contract/pen';
import { NAME_MAX_LENGTH } from '#core/contract/preset';
import { penSvg } from '#core/pen/penOutline';
import type { Box } from '#core/placement/geometry';
import { freeName } from '#core/placement/suggestName';
import { failure, success, type Result } from '#core/result';
import type { ArtworkRow, MarkRow } from './db/markRows.ts';
import type { Tables } from './db/tables.ts';
import type { Imaging } from './imaging/pool/imaging.ts';
import type { ArtworkFile } from './imaging/raster/loadArtwork.ts';
import { SHIPPED_FONTS_FOLDER } from './lettering/fontBook.ts';
import { ArtworkFiles } from './artworkFiles.ts';
import type { Designs } from './designs.ts';
import { markView } from './markViews.ts';
import {
  artworkOrigin,
  CHANGED_MEANWHILE,
  nameFromFile,
  newArtwork,
  ownArtwork,
  type NewArtwork,
} from './newArtwork.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** The library of marks: rows in the database, artwork as files that never change once written. */
export class Marks {
  private readonly files: ArtworkFiles;

  constructor(
    private readonly tables: Tables,
    private readonly paths: DataPaths,
    private readonly imaging: Imaging,
    /** Known once both are there: each needs the other. */
    private readonly designs: () => Designs,
  ) {
    this.files = new ArtworkFiles(paths);
  }

  /** Where the fonts of composed marks are. */
  get fontFolders(): string[] {
    return [SHIPPED_FONTS_FOLDER, this.paths.fonts];
  }

  list(): MarkView[] {
    return this.tables.marks.all().map((row) => this.view(row));
  }

  view(row: MarkRow): MarkView {
    return markView(row, this.tables);
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
    const imported = await this.imaging.importArtwork(bytes, page);
    if (!imported.ok) return imported;
    const { name, box, artwork } = imported.value;
    if (artwork.kind === 'design') {
      // A mark's own file is a mark, whether it is new or takes another's place.
      return this.designs().keepArtwork(artwork, name ?? nameFromFile(fileName), markId);
    }
    const composed = this.composed(markId);
    if (composed) return this.designs().replaceArtwork(composed, artwork, { kind: 'file' });
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
    const taken = await this.imaging.withoutBox(png, box.colour, take);
    if (!taken.ok) return taken;
    return this.keep(newArtwork({ ...taken.value, notes: [] }, decided), '', row.id);
  }

  async addDrawing(drawing: PenDrawing, name: string, markId: number | null) {
    const svg = penSvg(drawing);
    return svg.ok ? this.addOwn(svg.value, { kind: 'pen', drawing }, null, name, markId) : svg;
  }

  /**
   * Artwork that was made here, as a new mark or as the artwork of one; of a composed mark it becomes
   * that of its layer.
   *
   * @param drawn an SVG, or the bytes of a PNG
   * @param pixels that are kept beside outlines
   */
  async addOwn(
    drawn: string | Uint8Array,
    origin: ArtworkOrigin,
    pixels: Uint8Array | null,
    name: string,
    markId: number | null,
  ): Promise<Result<number>> {
    const made = await ownArtwork(drawn, origin, pixels, this.imaging);
    if (!made.ok) return made;
    const composed = this.composed(markId);
    if (composed) return this.designs().replaceArtwork(composed, made.value.artwork, origin);
    return this.keep(made.value.version, name, markId);
  }

  /** The mark of an id, where it was composed of layers. */
  composed(markId: number | null): MarkRow | null {
    const row = markId === null ? null : this.tables.marks.get(markId);
    return row?.origin.kind === 'design' ? row : null;
  }

  /** Lists a mark, or a version of one, whose artwork is still to come. @param ink a guess */
  reserve(origin: ArtworkOrigin, ink: Box, name: string, markId: number | null): number {
    const row: ArtworkRow = {
      ...{ kind: 'svg', natural: ink, ink, notes: [], origin, box: null },
      ...{ hasPixels: false, isPending: true },
    };
    return this.tables.together(() => {
      const { marks } = this.tables;
      if (markId === null) return marks.insert(name.slice(0, NAME_MAX_LENGTH), row);
      marks.addVersion(markId, row);
      return markId;
    });
  }

  /** The artwork of a version that was reserved. @param drawn as in `addOwn` */
  async complete(
    { id, version, origin }: MarkRow,
    drawn: string | Uint8Array,
    pixels: Uint8Array | null,
  ): Promise<Result<number>> {
    const made = await ownArtwork(drawn, artworkOrigin(origin), pixels, this.imaging);
    if (!made.ok) return made;
    const files = await this.files.write(made.value.version);
    const row = { ...made.value.version.row, hasPixels: pixels !== null };
    const isStillAsked = this.tables.together(() => {
      if (!this.tables.marks.complete(id, version, row)) return false;
      this.files.name(files, id, version);
      return true;
    });
    if (isStillAsked) return success(id);
    for (const { path } of files) await rm(path, { force: true });
    return failure(CHANGED_MEANWHILE);
  }

  /** Writes a version of artwork and lists it. */
  async keep(
    { row, content, pixels }: NewArtwork,
    name: string,
    markId: number | null,
    /** The version it takes the place of; another that came meanwhile is not written over. */
    expectedVersion?: number,
  ): Promise<Result<number>> {
    const withPixels = { ...row, hasPixels: pixels !== null };
    const files = await this.files.write({ row, content, pixels });
    // Row and names together: no version is ever listed that cannot be drawn.
    return this.tables.together(() => {
      const { marks } = this.tables;
      const present = markId === null ? null : marks.get(markId);
      if (markId !== null && !present) return failure('That mark is not there any more.');
      if (expectedVersion !== undefined && present?.version !== expectedVersion) {
        return failure(CHANGED_MEANWHILE);
      }
      const version = markId === null ? 1 : marks.addVersion(markId, withPixels);
      const id = markId ?? marks.insert(name.slice(0, NAME_MAX_LENGTH), withPixels);
      this.files.name(files, id, version);
      return success(id);
    });
  }

  /** A second mark with the same artwork, under a name of its own. */
  async duplicate(row: MarkRow): Promise<number> {
    const taken = this.tables.marks.all().map(({ name }) => name);
    const { content, pixels } = await this.files.read(row);
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

  /** Makes an earlier version the present one again, as a new one: what goes by any other stays right. */
  async takeBack(row: MarkRow, version: number): Promise<Result<number>> {
    const before = this.atVersion(row, version);
    if (!before || before.isPending) return failure('That version is not kept any more.');
    return this.keep(
      { row: before, ...(await this.files.read(before)) },
      row.name,
      row.id,
      row.version,
    );
  }

  /** The artwork of a version; versions stay on disk, so a run goes on with the one it began with. */
  artworkFile(row: MarkRow, version = row.version): ArtworkFile {
    const art = version === row.version ? row : this.tables.marks.artwork(row.id, version);
    const { kind, natural, ink } = art ?? row;
    const fontFolders = (art ?? row).origin.kind === 'design' ? this.fontFolders : null;
    return { path: this.paths.artwork(row.id, version, kind), kind, natural, ink, fontFolders };
  }

  /** The mark with the artwork of a version, where that is still there. */
  atVersion(row: MarkRow, version: number): MarkRow | null {
    if (version === row.version) return row;
    const artwork = this.tables.marks.artwork(row.id, version);
    return artwork && { ...row, ...artwork, version };
  }

  /** Versions of a composed mark come with every change; those that nothing needs are removed. */
  async prune(markId: number): Promise<void> {
    const row = this.tables.marks.get(markId);
    if (!row) return;
    for (const { version } of this.tables.marks.removeUnneeded(markId, row.version)) {
      await this.files.remove(markId, version);
    }
    await this.files.removePictures(markId, row.version);
  }

  /** For good, with all versions of its artwork. */
  async remove(id: number): Promise<void> {
    const newest = this.tables.marks.nextVersion(id) - 1;
    this.tables.marks.remove(id);
    await rm(this.paths.markPictures(id), { recursive: true, force: true });
    for (let version = 1; version <= newest; version++) await this.files.remove(id, version);
  }
}
