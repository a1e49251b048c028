import { adjustmentTable } from './adjustments.ts';
import { answerTable } from './answers.ts';
import { batchTable } from './batches.ts';
import { binTable } from './bin.ts';
import { deliveryTable } from './deliveries.ts';
import { earlierVersionTable } from './earlierVersions.ts';
import { examplesTable } from './examples.ts';
import { finishSetTable } from './finishSets.ts';
import { fontTable } from './fonts.ts';
import { importTable } from './imports.ts';
import { inboxTable } from './inboxes.ts';
import { markSetTable } from './markSets.ts';
import { markTable } from './marks.ts';
import type { Db } from './open.ts';
import { ownPaths } from './ownPaths.ts';
import { photoTable } from './photos.ts';
import { presetTable } from './presets.ts';
import { runDocumentTable } from './runDocuments.ts';
import { runItemTable } from './runItems.ts';
import { runTable } from './runs.ts';
import { scanTable } from './scans.ts';
import { settingsTable } from './settings.ts';

/** All tables of a database; each prepares its statements once. */
export function openTables(db: Db, dataFolder: string) {
  const places = ownPaths(dataFolder);
  return {
    settings: settingsTable(db),
    marks: markTable(db),
    presets: presetTable(db),
    deliveries: deliveryTable(db, places),
    batches: batchTable(db),
    photos: photoTable(db, places),
    adjustments: adjustmentTable(db),
    runs: runTable(db, places),
    items: runItemTable(db, places),
    documents: runDocumentTable(db, places),
    imports: importTable(db, places),
    inboxes: inboxTable(db, places),
    answers: answerTable(db),
    scans: scanTable(db),
    fonts: fontTable(db),
    finishSets: finishSetTable(db),
    markSets: markSetTable(db),
    examples: examplesTable(db),
    bin: binTable(db),
    earlier: earlierVersionTable(db),
    /** Several changes that belong together, or none of them. */
    together: <T>(work: () => T): T => db.transaction(work)(),
  };
}

export type Tables = ReturnType<typeof openTables>;
