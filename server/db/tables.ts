import { adjustmentTable } from './adjustments.ts';
import { batchTable } from './batches.ts';
import { deliveryTable } from './deliveries.ts';
import { finishSetTable } from './finishSets.ts';
import { fontTable } from './fonts.ts';
import { markTable } from './marks.ts';
import type { Db } from './open.ts';
import { photoTable } from './photos.ts';
import { presetTable } from './presets.ts';
import { runItemTable } from './runItems.ts';
import { runTable } from './runs.ts';
import { scanTable } from './scans.ts';
import { settingsTable } from './settings.ts';

/** All tables of a database; each prepares its statements once. */
export function openTables(db: Db) {
  return {
    settings: settingsTable(db),
    marks: markTable(db),
    presets: presetTable(db),
    deliveries: deliveryTable(db),
    batches: batchTable(db),
    photos: photoTable(db),
    adjustments: adjustmentTable(db),
    runs: runTable(db),
    items: runItemTable(db),
    scans: scanTable(db),
    fonts: fontTable(db),
    finishSets: finishSetTable(db),
    /** Several changes that belong together, or none of them. */
    together: <T>(work: () => T): T => db.transaction(work)(),
  };
}

export type Tables = ReturnType<typeof openTables>;
