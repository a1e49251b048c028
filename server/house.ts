import type { Logger } from 'pino';
import type { Config } from './config.ts';
import type { Db } from './db/open.ts';
import { openDatabase } from './db/open.ts';
import { openTables, type Tables } from './db/tables.ts';
import { Events } from './http/events.ts';
import { Rasteriser } from './imaging/raster/rasteriser.ts';
import { PhotoImports } from './imports/importPhotos.ts';
import { Designs } from './designs.ts';
import { Fonts } from './lettering/fonts.ts';
import { MarkPictures } from './markPictures.ts';
import { Marks } from './marks.ts';
import { PartStore } from './parts.ts';
import { Engine } from './runs/engine.ts';
import { Readings } from './readings.ts';
import { RunQueue } from './runs/runQueue.ts';
import { Scans } from './scans.ts';
import { AllowedFolders } from './storage/allowedFolders.ts';
import { dataPaths, type DataPaths } from './storage/dataPaths.ts';

/** Everything a running server is made of, put together in one place. */
export interface House {
  readonly config: Config;
  readonly log: Logger;
  readonly db: Db;
  readonly tables: Tables;
  readonly paths: DataPaths;
  readonly allowed: AllowedFolders;
  readonly rasteriser: Rasteriser;
  readonly marks: Marks;
  readonly pictures: MarkPictures;
  readonly designs: Designs;
  readonly parts: PartStore;
  readonly fonts: Fonts;
  readonly scans: Scans;
  readonly imports: PhotoImports;
  readonly engine: Engine;
  readonly readings: Readings;
  readonly queue: RunQueue;
  readonly events: Events;
  readonly close: () => void;
}

export function buildHouse(config: Config, log: Logger): House {
  const paths = dataPaths(config.dataFolder);
  paths.prepare();
  const db = openDatabase(paths.database);
  const tables = openTables(db);
  const allowed = new AllowedFolders(() => [
    paths.exports,
    ...config.folders,
    ...tables.settings.get().folders,
  ]);
  const rasteriser = new Rasteriser();
  const events = new Events();
  const scans = new Scans(tables, paths);
  const parts = new PartStore(paths);
  const marks: Marks = new Marks(tables, paths, scans, () => designs);
  const designs = new Designs(tables, rasteriser, marks, parts);
  const pictures = new MarkPictures(marks, paths, rasteriser);
  const fonts = new Fonts(tables, paths);
  const imports = new PhotoImports({
    tables,
    paths,
    atOnce: config.importsAtOnce,
    tell: (progress) => events.send('import', progress),
  });
  const engine = new Engine();
  // A process of its own: a run that keeps the engine busy must not hold up what the page shows.
  const judge = new Engine('small pictures');
  const readings = new Readings(tables, marks, paths, judge);
  const queue = new RunQueue({
    ...{ tables, marks, paths, allowed, engine, log },
    tell: (run) => events.send('run', run),
  });
  const close = (): void => {
    imports.close();
    queue.close();
    engine.close();
    judge.close();
    rasteriser.close();
    db.close();
  };
  return {
    config,
    log,
    db,
    tables,
    paths,
    allowed,
    rasteriser,
    marks,
    pictures,
    designs,
    parts,
    fonts,
    scans,
    imports,
    engine,
    readings,
    queue,
    events,
    close,
  };
}
