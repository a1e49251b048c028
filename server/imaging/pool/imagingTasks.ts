import { writeFile } from 'node:fs/promises';
import type { Design, Parts } from '#core/contract/design';
import type { LiftSettings } from '#core/contract/lift';
import type { Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import type { LaidMark, MarkSource } from '../compose.ts';
import type { Judged, MarkedSubject } from '../judgePhoto.ts';
import type { Proxy } from '../workingPhoto.ts';
import type { RegionJob } from '../photoRegion.ts';
import type { PreparedPhoto } from '../photo/prepare.ts';
import type { PageWish } from '../pdf/pdf.ts';
import type { RasterAnswer, RasterRequest, Showing } from '../raster/artwork.ts';
import { loadArtwork, type ArtworkFile } from '../raster/loadArtwork.ts';
import { Rasteriser } from '../raster/rasteriser.ts';
import type { Described } from '../metadata/rights.ts';
import type { NamedInRun } from '../photo/fileWords.ts';
import type { RenderJob, WantedMark } from '../pass/renderJob.ts';
import type { ShowJob } from '../show/showJob.ts';
import type { SheetJob } from '../sheet/sheetJob.ts';
import { tell } from './servePool.ts';

/**
 * All that imaging processes do: whatever reads bytes from outside, and whatever keeps a core busy.
 * Each task loads what it needs when it is first asked for, so that a process only holds that.
 */

/** A file that never changes, or the artwork itself. */
export type GivenMark = ArtworkFile | MarkSource;

/** A photo whose readability is asked for, by its proxy. */
export interface JudgeJob {
  /** Of the photo, to be told by. */
  readonly name: string;
  readonly proxy: Proxy;
  readonly marks: readonly JudgedMark[];
}

/** A mark whose readability is asked for, over those before it. */
export interface JudgedMark {
  readonly subject: MarkedSubject;
  /** Place of its artwork among those that come with the job. */
  readonly mark: number;
}

/** A mark to be looked at, where it was placed. */
export interface PlacedMark extends Omit<LaidMark, 'mark'> {
  readonly mark: number;
}

/** What a photo says of itself. */
export interface DescribedPhoto extends Described {
  /** Turned upright. */
  readonly size: Size;
  readonly capturedAt: string | null;
}

/** Where the pictures of a photo that is taken in are written. */
export interface PreviewFiles {
  readonly proxy: string;
  readonly tile: string;
}

/** A photo taken in; its pictures lie in the files that were named. */
export type TakenPhoto = Omit<PreparedPhoto, 'proxy' | 'tile'>;

const rasteriser = new Rasteriser(drawHere);

/** In this process; the server watches how long it takes. */
async function drawHere(request: RasterRequest): Promise<RasterAnswer> {
  const { drawMark } = await import('../raster/drawMark.ts');
  tell({ kind: 'drawing' });
  try {
    return await drawMark(request);
  } finally {
    tell({ kind: 'drawn' });
  }
}

function sourceOf(mark: GivenMark): MarkSource {
  return 'key' in mark ? mark : loadArtwork(mark);
}

export const imagingTasks = {
  async render(job: RenderJob, marks: readonly GivenMark[]) {
    const { renderPhoto } = await import('../pass/renderPhoto.ts');
    return renderPhoto(job, marks.map(sourceOf), rasteriser);
  },

  async writeSheets(job: SheetJob, marks: readonly GivenMark[]) {
    const { writeSheets } = await import('../sheet/writeSheets.ts');
    return writeSheets(job, marks.map(sourceOf), rasteriser);
  },

  async writeShow(job: ShowJob, marks: readonly GivenMark[]) {
    const { writeShow } = await import('../show/writeShow.ts');
    return writeShow(job, marks.map(sourceOf), rasteriser);
  },

  /** What a photo is called, where it was taken, when and by whom, and how large it is. */
  async describe(path: string): Promise<Result<DescribedPhoto>> {
    const { photoFacts, probePhoto } = await import('../photo/probe.ts');
    const probed = await probePhoto(path);
    if (!probed.ok) return probed;
    return success({ ...(await photoFacts(path, probed.value)), size: probed.value.size });
  },

  async verify(source: string, output: string, marks: number) {
    const { verifyOutput } = await import('../readBack/verifyOutput.ts');
    return verifyOutput(source, output, marks);
  },

  /** @returns judgements, one for each mark, the lowest first */
  async judge({ name, proxy, marks }: JudgeJob, artworks: readonly GivenMark[]) {
    const { judgeProxy } = await import('../judgePhoto.ts');
    const { proxyCopies } = await import('../workingPhoto.ts');
    const { wordsFacts } = await import('../raster/wordsSaid.ts');
    const copies = proxyCopies(proxy);
    const below: LaidMark[] = [];
    const judgements: Judged[] = [];
    for (const { subject, mark: place } of marks) {
      const mark = sourceOf(artworks[place]);
      const judged = await judgeProxy(copies, { subject, mark, below }, rasteriser);
      if (!judged.ok) return judged;
      judgements.push(judged.value);
      below.push({ placement: judged.value.placement, mark, words: subject.words });
    }
    const [first] = marks;
    const sources = below.map(({ mark }) => mark);
    return success({ judgements, words: wordsFacts(sources, first.subject.words, name) });
  },

  async look(job: RegionJob, marks: readonly PlacedMark[], artworks: readonly GivenMark[]) {
    const { photoRegion } = await import('../photoRegion.ts');
    const laid = marks.map((one) => ({ ...one, mark: sourceOf(artworks[one.mark]) }));
    return photoRegion(job, laid, rasteriser);
  },

  async check(
    path: string,
    named: NamedInRun,
    marks: readonly WantedMark[],
    artworks: readonly GivenMark[],
  ) {
    const { checkPhoto } = await import('../checkPhoto.ts');
    return checkPhoto(path, named, marks, artworks.map(sourceOf), rasteriser);
  },

  async prepare(path: string, files: PreviewFiles): Promise<Result<TakenPhoto>> {
    const { preparePhoto } = await import('../photo/prepare.ts');
    const prepared = await preparePhoto(path);
    if (!prepared.ok) return prepared;
    const { proxy, tile, ...rest } = prepared.value;
    await Promise.all([writeFile(files.proxy, proxy), writeFile(files.tile, tile)]);
    return success(rest);
  },

  async importArtwork(bytes: Uint8Array, page: number) {
    const { importArtwork } = await import('../raster/importArtwork.ts');
    return importArtwork(bytes, rasteriser, page);
  },

  async withoutBox(png: Uint8Array, colour: string, from: 'outside' | 'everywhere') {
    const { withoutBox } = await import('../raster/importArtwork.ts');
    return withoutBox(png, colour, from, rasteriser);
  },

  async draw(request: RasterRequest): Promise<RasterAnswer> {
    return drawHere(request);
  },

  async composeDesign(design: Design, parts: Parts, fontFolders: readonly string[], name: string) {
    const { composedDesign } = await import('../designFile.ts');
    return composedDesign(design, parts, fontFolders, name);
  },

  async designPicture(
    design: Design,
    parts: Parts,
    fontFolders: readonly string[],
    showing: Showing,
    scale: number,
  ) {
    const { designPicture } = await import('../designFile.ts');
    return designPicture(design, parts, fontFolders, showing, scale, rasteriser);
  },

  async lift(path: string, settings: LiftSettings) {
    const { liftFile } = await import('../lift/liftFile.ts');
    return liftFile(path, settings);
  },

  async recogniseScan(path: string, name: string) {
    const { recognisedScan } = await import('../scanFile.ts');
    return recognisedScan(path, name);
  },

  async scanPage(path: string, page: number, wish: PageWish) {
    const { scanPage } = await import('../scanFile.ts');
    return scanPage(path, page, wish);
  },

  async readFont(bytes: Uint8Array) {
    const { readFont } = await import('../../lettering/readFont.ts');
    return readFont(bytes);
  },

  async outputTile(output: string) {
    const { outputTile } = await import('../outputView.ts');
    return outputTile(output);
  },

  async sourceAsJpeg(source: string, frame: Size) {
    const { sourceAsJpeg } = await import('../outputView.ts');
    return sourceAsJpeg(source, frame);
  },

  async outputAsJpeg(output: string) {
    const { outputAsJpeg } = await import('../outputView.ts');
    return outputAsJpeg(output);
  },
};

export type ImagingTasks = typeof imagingTasks;
