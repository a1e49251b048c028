import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';

/** Where things lie in the data folder. File names come from ids, never from what a user typed. */
export function dataPaths(dataFolder: string) {
  let count = 0;
  const folders = {
    incoming: join(dataFolder, 'incoming'),
    photos: join(dataFolder, 'photos'),
    previews: join(dataFolder, 'previews'),
    marks: join(dataFolder, 'marks'),
    scans: join(dataFolder, 'scans'),
    parts: join(dataFolder, 'parts'),
    fonts: join(dataFolder, 'fonts'),
    exports: join(dataFolder, 'exports'),
    /** Photos made ready for documents of runs under way. */
    prepared: join(dataFolder, 'prepared'),
  };
  return {
    ...folders,
    /** A free name for what is being written, on the disk where it will stay. */
    freshIncoming: (what: string) => join(folders.incoming, `${what}-${process.pid}-${++count}`),
    database: join(dataFolder, 'light-crest.sqlite'),
    photo: (id: number, ending: string) => join(folders.photos, `${id}${ending}`),
    preview: (photoId: number, kind: PreviewKind) =>
      join(folders.previews, `${photoId}-${kind}.jpg`),
    outputTile: (itemId: number) => join(folders.previews, `output-${itemId}.jpg`),
    preparedOf: (runId: number) => join(folders.prepared, `${runId}`),
    preparedPhoto: (runId: number, delivery: number, number: number) =>
      join(folders.prepared, `${runId}`, `${delivery}-${number}.photo`),
    artwork: (markId: number, version: number, kind: 'svg' | 'png') =>
      join(folders.marks, `${markId}-${version}.${kind}`),
    /** Artwork of a design's layers, under a name made of its content. */
    part: (key: string) => join(folders.parts, `${key}.json`),
    scan: (id: number, ending: string) => join(folders.scans, `${id}${ending}`),
    /** A page of a scan as a picture every browser can show, made when first asked for. */
    scanPicture: (id: number, page: number) => join(folders.scans, `${id}-page-${page}.png`),
    /** Pictures of a mark for the page; they go with the mark. */
    markPictures: (markId: number) => join(folders.previews, `mark-${markId}`),
    prepare(): void {
      // What a killed import left behind is worth nothing.
      rmSync(folders.incoming, { recursive: true, force: true });
      for (const folder of Object.values(folders)) mkdirSync(folder, { recursive: true });
    },
  };
}

export type PreviewKind = 'proxy' | 'tile';
export type DataPaths = ReturnType<typeof dataPaths>;
