import { setTimeout as delay } from 'node:timers/promises';
import type { Logger } from 'pino';
import type { Config } from './config.ts';
import { EXAMPLE_PHOTOS } from '#demo/examples';
import { Bin } from './bin.ts';
import { Batches } from './batches.ts';
import { Bundles } from './bundle/bundles.ts';
import type { Db } from './db/open.ts';
import { Portions } from './db/portions.ts';
import { openDatabase } from './db/open.ts';
import { openTables, type Tables } from './db/tables.ts';
import { Events } from './http/events.ts';
import { VersionMakers } from './http/versionMakers.ts';
import { Imaging } from './imaging/pool/imaging.ts';
import { Rasteriser } from './imaging/raster/rasteriser.ts';
import { FolderImports } from './imports/folderImports.ts';
import { learnWords } from './imports/learnWords.ts';
import { Inboxes } from './inbox/inboxes.ts';
import { Freshness } from './imports/freshness.ts';
import { PhotoIntake } from './imports/photoIntake.ts';
import { Designs } from './designs.ts';
import { Examples } from './examples.ts';
import { Fonts } from './lettering/fonts.ts';
import { Lifts } from './lifts.ts';
import { MarkPictures } from './markPictures.ts';
import { Marks } from './marks.ts';
import { PartStore } from './parts.ts';
import { Readings } from './readings.ts';
import { RunQueue } from './runs/runQueue.ts';
import type { Crew } from './workers/openCrew.ts';
import { Tries } from './tries.ts';
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
  readonly lifts: Lifts;
  readonly intake: PhotoIntake;
  readonly imports: FolderImports;
  readonly batches: Batches;
  readonly bin: Bin;
  readonly examples: Examples;
  readonly freshness: Freshness;
  readonly imaging: Imaging;
  readonly readings: Readings;
  readonly bundles: Bundles;
  readonly queue: RunQueue;
  readonly portions: Portions;
  readonly inboxes: Inboxes;
  readonly tries: Tries;
  /** Null: this server hands nothing out. */
  readonly crew: Crew | null;
  readonly events: Events;
  readonly versions: VersionMakers;
  /** Reads what marks may say of photos that were taken in before that was kept. */
  readonly learnWords: () => Promise<void>;
  /** Gives up what is in work; the next server goes on with it. */
  readonly close: () => Promise<void>;
}

/** What ending may take; what has not ended by then is cleared up at the next start. */
const CLOSE_MS = 2_000;

/** @param crew workers that help, where the configuration names a Redis */
export function buildHouse(config: Config, log: Logger, crew: Crew | null = null): House {
  const paths = dataPaths(config.dataFolder);
  paths.prepare();
  const db = openDatabase(paths.database, config.dataFolder);
  const tables = openTables(db, config.dataFolder);
  const allowed = new AllowedFolders(() => [
    paths.exports,
    ...config.folders,
    ...tables.settings.get().folders,
    ...(tables.examples.get() ? [EXAMPLE_PHOTOS] : []),
  ]);
  const imaging = new Imaging(config.imagingProcess);
  const rasteriser = new Rasteriser(imaging.drawer);
  const events = new Events();
  const versions = new VersionMakers();
  const scans = new Scans(tables, paths, imaging);
  const parts = new PartStore(paths);
  const marks: Marks = new Marks(tables, paths, imaging, () => designs);
  const designs = new Designs(tables, imaging, rasteriser, marks, parts);
  const lifts = new Lifts({
    ...{ tables, scans, marks, imaging, log },
    tell: (id) => events.send('changed', { what: 'marks', id, tab: null }),
  });
  const pictures = new MarkPictures(marks, paths, rasteriser);
  const fonts = new Fonts(tables, paths, imaging);
  const atOnce = config.importsAtOnce;
  const intake = new PhotoIntake({ tables, paths, imaging, atOnce });
  const imports = new FolderImports({
    ...{ tables, intake, allowed, atOnce, log },
    tell: (progress) => events.send('import', progress),
  });
  const batches = new Batches(tables, paths, imports);
  const bin = new Bin({ tables, marks, batches });
  const examples = new Examples({ tables, marks, imports });
  const freshness = new Freshness({
    ...{ tables, intake, log },
    tell: (batchId) => events.send('photos', { batchId }),
  });
  const bundles = new Bundles({ tables, marks, fonts, designs, imaging, pictures, paths });
  const readings = new Readings({ tables, marks, lifts, paths, imaging });
  const portions = new Portions(tables);
  const queue = new RunQueue({
    ...{ tables, marks, paths, allowed, freshness, log, portions },
    imaging: crew ? crew.poolOver(imaging) : imaging,
    tell: (run) => events.send('run', run),
  });
  const inboxes = new Inboxes({
    ...{ tables, paths, allowed, imaging, queue, log, pace: config.inboxPace },
    tell: (id) => events.send('changed', { what: 'inboxes', id, tab: null }),
  });
  const tries = new Tries({ tables, marks, paths, allowed, imaging });
  let isClosed = false;
  const tellPhotos = (batchId: number): void => events.send('photos', { batchId });
  const close = async (): Promise<void> => {
    isClosed = true;
    lifts.close();
    freshness.close();
    imports.close();
    intake.close();
    const ended = Promise.all([inboxes.close(), queue.close()]);
    imaging.close();
    await Promise.race([ended, delay(CLOSE_MS, undefined, { ref: false })]);
    await crew?.close();
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
    lifts,
    intake,
    imports,
    batches,
    bin,
    examples,
    freshness,
    imaging,
    crew,
    readings,
    bundles,
    queue,
    portions,
    inboxes,
    tries,
    events,
    versions,
    learnWords: () =>
      learnWords({ tables, imaging, log, isClosed: () => isClosed, tell: tellPhotos }),
    close,
  };
}
