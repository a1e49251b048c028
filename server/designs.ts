import { randomBytes } from 'node:crypto';
import { designSchema, type Design, type Layer, type Part } from '#core/contract/design';
import { BASE_UNITS } from '#core/contract/finish';
import type { DesignView, PartView } from '#core/contract/http';
import type { MarkOrigin } from '#core/contract/mark';
import type { ArtworkOrigin } from '#core/contract/origin';
import { naturalBoxes } from '#core/design/markToSvg';
import { setLettering } from '#core/lettering/setLettering';
import { pathText } from '#core/path/path';
import { failure, success, type Result } from '#core/result';
import type { ArtworkRow, MarkRow } from './db/marks.ts';
import type { Tables } from './db/tables.ts';
import { modelOf, markSvg } from './imaging/markFile.ts';
import { pngOfRaster } from './imaging/pngOfRaster.ts';
import { contextOf, type DesignArtwork, type PlainArtwork } from './imaging/raster/artwork.ts';
import { importArtwork } from './imaging/raster/importArtwork.ts';
import { loadArtwork } from './imaging/raster/loadArtwork.ts';
import type { Showing } from './imaging/raster/artwork.ts';
import type { Rasteriser } from './imaging/raster/rasteriser.ts';
import { faceOf, SHIPPED_FONTS_FOLDER } from './lettering/fontBook.ts';
import type { Marks } from './marks.ts';
import type { PartStore } from './parts.ts';

/** A design may be drawn at most this large for the page, px a side. */
const MOST_PICTURE_PX = 4_096;

/** Marks as layers: opened, changed, saved as one goes, drawn while they are being made. */
export class Designs {
  constructor(
    private readonly tables: Tables,
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
    const imported = await this.marks.takeIn((rasteriser) => importArtwork(bytes, rasteriser));
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
    const kept = await this.keep(design, row.name, row.id);
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
    const artwork = this.artworkOf(design, showing.year);
    if (!artwork.ok) return artwork;
    const { natural, ink } = artwork.value;
    const width = Math.ceil(natural.width * scale);
    const height = Math.ceil(natural.height * scale);
    if (width > MOST_PICTURE_PX || height > MOST_PICTURE_PX) {
      return failure(`Expected a picture of at most ${MOST_PICTURE_PX} px a side.`);
    }
    const spec = {
      ...{ width, height, rotation: 0 },
      centreX: (ink.x + ink.width / 2 - natural.x) * scale,
      centreY: (ink.y + ink.height / 2 - natural.y) * scale,
      markWidth: ink.width * scale,
      markHeight: ink.height * scale,
    };
    const raster = await this.rasteriser.draw(artwork.value, spec, showing);
    return raster.ok ? success(await pngOfRaster(raster.value)) : raster;
  }

  /** Removes artwork that no design uses. */
  tidy(): Promise<void> {
    return this.parts.tidy(this.tables.marks.partsUsed());
  }

  private async keep(design: Design, name: string, markId: number | null) {
    const artwork = this.artworkOf(this.withKeptOutlines(design), new Date().getFullYear());
    return artwork.ok ? this.keepArtwork(artwork.value, name, markId) : artwork;
  }

  async keepArtwork(
    artwork: DesignArtwork,
    name: string,
    markId: number | null,
  ): Promise<Result<number>> {
    const { design, natural, ink } = artwork;
    const origin: MarkOrigin = { kind: 'design', design };
    const showing = { tone: 'original', year: new Date().getFullYear() };
    const svg = await markSvg(artwork, showing, modelOf(artwork, name || 'Mark', origin));
    if (!svg.ok) return svg;
    const row: ArtworkRow = {
      ...{ kind: 'svg', natural, ink, notes: [], origin, box: null, hasPixels: false },
    };
    return this.marks.keep({ row, content: svg.value, pixels: null }, name, markId);
  }

  private artworkOf(design: Design, year: number): Result<DesignArtwork> {
    const parts = this.parts.ofDesign(design);
    if (!parts.ok) return parts;
    const whole = {
      kind: 'design',
      design,
      parts: parts.value,
      fontFolders: this.marks.fontFolders,
    } as const;
    const nowhere = { x: 0, y: 0, width: 1, height: 1 };
    const boxes = naturalBoxes(
      design,
      contextOf({ ...whole, natural: nowhere, ink: nowhere }, year),
    );
    if (!boxes)
      return failure('Expected a mark with something visible in it, found only empty layers.');
    return success({ ...whole, ...boxes });
  }

  /** Words in a font that was added keep their outlines, for where that font is not. */
  private withKeptOutlines(design: Design): Design {
    const year = new Date().getFullYear();
    const layers = design.layers.map((layer): Layer => {
      if (layer.kind !== 'lettering') return layer;
      const isShipped = faceOf([SHIPPED_FONTS_FOLDER], layer.lettering.font) !== null;
      const face = faceOf(this.marks.fontFolders, layer.lettering.font);
      if (isShipped || !face) return layer;
      const kept = pathText(setLettering(layer.lettering, face, year));
      return { ...layer, lettering: { ...layer.lettering, kept } };
    });
    return { ...design, layers };
  }

  /** Artwork that was taken in already, so it is traced where the page's pictures are drawn. */
  private partOf(artwork: PlainArtwork) {
    return this.parts.fromArtwork(artwork, this.rasteriser);
  }
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
