import { randomBytes } from 'node:crypto';
import { designSchema, type Design, type Part, type Parts } from '#core/contract/design';
import { BASE_UNITS } from '#core/contract/finish';
import type { DesignView, PartView } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import type { ArtworkOrigin } from '#core/contract/origin';
import { failure, success, type Result } from '#core/result';
import type { ArtworkRow, MarkRow } from './db/markRows.ts';
import type { Tables } from './db/tables.ts';
import type { ComposedDesign } from './imaging/designFile.ts';
import type { Imaging } from './imaging/pool/imaging.ts';
import type { DesignArtwork, PlainArtwork } from './imaging/raster/artwork.ts';
import { loadArtwork } from './imaging/raster/loadArtwork.ts';
import type { Showing } from './imaging/raster/artwork.ts';
import type { Rasteriser } from './imaging/raster/rasteriser.ts';
import type { Marks } from './marks.ts';
import type { NewArtwork } from './newArtwork.ts';
import type { PartStore } from './parts.ts';

/** Marks as layers: opened, changed, saved as one goes, drawn while they are being made. */
export class Designs {
  constructor(
    private readonly tables: Tables,
    private readonly imaging: Imaging,
    private readonly rasteriser: Rasteriser,
    private readonly marks: Marks,
    private readonly parts: PartStore,
  ) {}

  /** Any mark as layers: one that was not composed becomes a layer of artwork. */
  async open(row: MarkRow): Promise<Result<DesignView>> {
    const { artwork } = loadArtwork(this.marks.artworkFile(row));
    if (artwork.kind === 'design') {
      return success(await this.parts.adopt(artwork.design, artwork.parts));
    }
    const made = await this.partOf(artwork);
    if (!made.ok) return made;
    const { key, part } = made.value;
    const origin = row.origin.kind === 'design' ? ({ kind: 'file' } as const) : row.origin;
    const design = designSchema.parse({ layers: [artworkLayer(key, part, row.name, origin)] });
    return success({ design, parts: { [key]: part } });
  }

  /** Artwork from a file, for a layer. */
  async addPart(bytes: Uint8Array, fileName: string): Promise<Result<PartView | DesignView>> {
    const imported = await this.imaging.importArtwork(bytes);
    if (!imported.ok) return imported;
    const { artwork, notes, name, box } = imported.value;
    if (artwork.kind === 'design') {
      return success(await this.parts.adopt(artwork.design, artwork.parts));
    }
    const made = await this.partOf(artwork);
    if (!made.ok) return made;
    const boxed =
      box === null ? [] : [`It stands in a box of ${box}. Bring it in as a mark first.`];
    return success({ ...made.value, name: name ?? fileName, notes: [...notes, ...boxed] });
  }

  async add(design: Design, name: string): Promise<Result<number>> {
    return this.keep(design, name, null);
  }

  /** A new version; those before it that nothing needs go. */
  async save(row: MarkRow, design: Design): Promise<Result<number>> {
    const kept = await this.keep(design, row.name, row.id, row.version);
    if (kept.ok) await this.marks.prune(row.id);
    return kept;
  }

  /** New artwork for a composed mark goes into the layer that held the old. */
  async replaceArtwork(
    row: MarkRow,
    artwork: PlainArtwork,
    origin: ArtworkOrigin,
  ): Promise<Result<number>> {
    if (row.origin.kind !== 'design') return failure(`${row.name} has no layers.`);
    const { design } = row.origin;
    const layers = design.layers.filter((layer) => layer.kind === 'artwork');
    const layer = layers.find((some) => some.origin.kind === origin.kind) ?? layers[0];
    if (!layer) return failure(`${row.name} has no layer of artwork that could be replaced.`);
    const before = this.parts.get(layer.part);
    const made = await this.partOf(artwork);
    if (!made.ok) return made;
    const { key, part } = made.value;
    const scale = before ? longSide(before) / longSide(part) : 1;
    const { place } = layer;
    const placed = { ...place, scaleX: place.scaleX * scale, scaleY: place.scaleY * scale };
    const next = { ...layer, part: key, origin, place: placed };
    return this.save(row, {
      ...design,
      layers: design.layers.map((some) => (some.id === layer.id ? next : some)),
    });
  }

  /** A picture of a design as it is, saved or not: all that is drawn, `scale` px a unit. */
  async picture(design: Design, showing: Showing, scale: number): Promise<Result<Buffer>> {
    const parts = this.parts.ofDesign(design);
    if (!parts.ok) return parts;
    const { fontFolders } = this.marks;
    const png = await this.imaging.designPicture(design, parts.value, fontFolders, showing, scale);
    return png.ok ? success(Buffer.from(png.value)) : png;
  }

  /** Removes artwork that no design uses. */
  tidy(): Promise<void> {
    return this.parts.tidy(this.tables.marks.partsUsed());
  }

  private async keep(
    design: Design,
    name: string,
    markId: number | null,
    expectedVersion?: number,
  ): Promise<Result<number>> {
    const parts = this.parts.ofDesign(design);
    if (!parts.ok) return parts;
    return this.composed(design, parts.value, name, markId, expectedVersion);
  }

  /** Artwork that came in as layers, with the layers' own artwork. */
  keepArtwork(
    { design, parts }: DesignArtwork,
    name: string,
    markId: number | null,
  ): Promise<Result<number>> {
    return this.composed(design, parts, name, markId);
  }

  private async composed(
    design: Design,
    parts: Parts,
    name: string,
    markId: number | null,
    expectedVersion?: number,
  ): Promise<Result<number>> {
    const { fontFolders } = this.marks;
    const composed = await this.imaging.composeDesign(design, parts, fontFolders, name || 'Mark');
    if (!composed.ok) return composed;
    return this.marks.keep(newVersion(composed.value), name, markId, expectedVersion);
  }

  /** Artwork that was taken in already, so it is traced where the page's pictures are drawn. */
  private partOf(artwork: PlainArtwork) {
    return this.parts.fromArtwork(artwork, this.rasteriser);
  }
}

function newVersion({ artwork, svg }: ComposedDesign): NewArtwork {
  const { design, natural, ink } = artwork;
  const origin: MarkOrigin = { kind: 'design', design };
  const row: ArtworkRow = {
    ...{ kind: 'svg', natural, ink, notes: [], origin, box: null, hasPixels: false },
    isPending: false,
  };
  return { row, content: svg, pixels: null };
}

function longSide({ ink }: Part): number {
  return Math.max(ink.width, ink.height);
}

/** A layer of artwork as large as a mark is begun. */
function artworkLayer(part: string, { ink }: Part, name: string, origin: ArtworkOrigin) {
  const scale = BASE_UNITS / Math.max(ink.width, ink.height);
  const id = randomBytes(6).toString('hex');
  return { kind: 'artwork', id, name, part, origin, place: { scaleX: scale, scaleY: scale } };
}
