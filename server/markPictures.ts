import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { PhotoWords } from '#core/lettering/words';
import { exampleWordsNow } from './lettering/examples.ts';
import { tokensOfMark } from './wordsOfMark.ts';
import type { Rescue } from '#core/readability/choice';
import { rescueBleed } from '#core/readability/rescueShape';
import { success, type Result } from '#core/result';
import type { MarkRow } from './db/markRows.ts';
import { markDrawing, markSvg, modelOf } from './imaging/markFile.ts';
import { markFrame, type FrameWish } from './imaging/markFrame.ts';
import { pngOfRaster } from './imaging/pngOfRaster.ts';
import { shapeOf, type Showing } from './imaging/raster/artwork.ts';
import { loadArtwork } from './imaging/raster/loadArtwork.ts';
import type { Rasteriser } from './imaging/raster/rasteriser.ts';
import type { Marks } from './marks.ts';
import type { DataPaths } from './storage/dataPaths.ts';

/** Width of the pictures in the list of marks, as the page asks for them. */
export const LIST_PICTURE_PX = 384;

/** Marks of the library as pictures, for the page and to take elsewhere. */
export class MarkPictures {
  constructor(
    private readonly marks: Marks,
    private readonly paths: DataPaths,
    private readonly rasteriser: Rasteriser,
  ) {}

  /** On a transparent ground; `reach` and `widthPx` as in `markDrawing`. */
  async picture(
    row: MarkRow,
    showing: Showing,
    widthPx: number,
    reach: 'bleed' | 'whole' = 'bleed',
  ): Promise<Result<Buffer>> {
    const source = loadArtwork(this.marks.artworkFile(row));
    const raster = await markDrawing(source, showing, widthPx, reach, this.rasteriser);
    return raster.ok ? success(await pngOfRaster(raster.value)) : raster;
  }

  /** A whole transparent frame with the mark in it. */
  async frame(row: MarkRow, wish: FrameWish): Promise<Result<Buffer>> {
    const source = loadArtwork(this.marks.artworkFile(row));
    const raster = await markFrame(source, wish, this.rasteriser);
    return raster.ok ? success(await pngOfRaster(raster.value)) : raster;
  }

  /** The picture of `picture`, drawn once and kept: a version of artwork never changes. */
  async keptPicture(row: MarkRow, showing: Showing, widthPx: number): Promise<Result<Buffer>> {
    const folder = this.paths.markPictures(row.id);
    const tokens = tokensOfMark(row);
    // Words that each photo has of its own would fill the disk.
    if (tokens.some((token) => token !== 'year')) return this.picture(row, showing, widthPx);
    const isDated = tokens.length > 0;
    const tone = showing.tone.replace('#', '') + (isDated ? `-${showing.words.year}` : '');
    const path = join(folder, `${row.version}-${tone}-${widthPx}.png`);
    const kept = await readFile(path).catch(() => null);
    if (kept) return success(kept);
    const picture = await this.picture(row, showing, widthPx);
    if (!picture.ok) return picture;
    const beside = this.paths.freshIncoming('picture');
    await mkdir(folder, { recursive: true });
    await writeFile(beside, picture.value);
    await rename(beside, path);
    return picture;
  }

  /**
   * Draws what the list of marks shows, one after the other, so that it is on disk before somebody asks:
   * a composed mark takes a second and more. One that cannot be drawn says so where it is asked for.
   */
  async prepare(rows: readonly MarkRow[]): Promise<void> {
    const showing: Showing = { tone: 'original', words: exampleWordsNow() };
    for (const row of rows) {
      if (!row.isPending) await this.keptPicture(row, showing, LIST_PICTURE_PX);
    }
  }

  /** What lies under the mark to help it; the ink box is `widthPx` wide, with the rescue's bleed. */
  async rescue(
    row: MarkRow,
    { kind, colour }: Pick<Rescue, 'kind' | 'colour'>,
    words: PhotoWords,
    widthPx: number,
  ): Promise<Result<Buffer>> {
    const { key, artwork } = loadArtwork(this.marks.artworkFile(row));
    const { aspect, bleed } = shapeOf(artwork, words);
    const size = { width: widthPx, height: widthPx / aspect };
    const room = rescueBleed(kind, size, bleed);
    const width = Math.round(size.width * (1 + 2 * room.x));
    const height = Math.round(size.height * (1 + 2 * room.y));
    const middle = { centreX: width / 2, centreY: height / 2, rotation: 0 };
    const spec = { width, height, markWidth: size.width, markHeight: size.height, ...middle };
    const raster = await this.rasteriser.rescue(key, artwork, spec, { kind, colour }, words);
    return raster.ok ? success(await pngOfRaster(raster.value)) : raster;
  }

  /** The mark as an SVG that opens anywhere and holds what is needed to take it up again. */
  svg(row: MarkRow, showing: Showing): Promise<Result<string>> {
    const { artwork } = loadArtwork(this.marks.artworkFile(row));
    return markSvg(artwork, showing, modelOf(artwork, row.name, row.origin));
  }
}
