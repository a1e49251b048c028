import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DEFAULT_DELIVERY } from '#core/contract/delivery';
import { DEFAULT_RULE } from '#core/contract/preset';
import { openDatabase } from '#server/db/open';
import { openTables } from '#server/db/tables';

const OUTPUTS = 4_096;
const PORTION = 64;
const MS = 1_000;

/** Outputs a second that the database alone takes: each taken up, given its name, and ended. */
export function claimsASecond(): number {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-claims-'));
  const db = openDatabase(join(folder, 'test.sqlite'), folder);
  try {
    const tables = openTables(db, folder);
    const box = { x: 0, y: 0, width: 1, height: 1 };
    const markId = tables.marks.insert('m', {
      ...{ kind: 'svg', natural: box, ink: box, notes: [] },
      ...{ origin: { kind: 'file' }, box: null, hasPixels: false, isPending: false },
    });
    const delivery = { deliveryId: null, name: 'd', rule: DEFAULT_DELIVERY };
    const runId = tables.runs.insert({
      ...{ batchId: null, batchName: 'b', presetId: null, presetName: 'p' },
      ...{ rule: DEFAULT_RULE, markId, markVersion: 1, over: [] },
      deliveries: [{ ...delivery, folder, makesFolder: false, zip: false }],
    });
    db.pragma('foreign_keys = OFF');
    tables.items.insertAll(
      runId,
      Array.from({ length: OUTPUTS }, (_, index) => ({
        ...{ number: index + 1, delivery: 1, photoId: 1, capturedAt: null, width: 9, height: 9 },
        ...{ sourcePath: `/${index}.jpg`, sourceName: `${index}.jpg` },
        ...{ adjustment: {}, over: null, own: null },
      })),
    );
    const measures = { result: null as never, note: null, durationMs: 1 };
    const beganMs = performance.now();
    for (let done = 0; done < OUTPUTS; done += PORTION) {
      const ids: number[] = [];
      tables.together(() => {
        for (const { id } of tables.items.waiting(runId, PORTION)) {
          tables.items.takeUp(id);
          ids.push(id);
        }
      });
      tables.together(() => {
        for (const id of ids) {
          tables.items.setMeasures(id, { ...measures, bytesBefore: 1, bytesAfter: 1 });
          tables.items.setNaming(id, join(folder, `${id}.jpg`), '1', join(folder, `${id}.part`));
        }
      });
      tables.together(() => {
        for (const id of ids) tables.items.finish(id, 'written', join(folder, `${id}.jpg`), null);
      });
    }
    return (OUTPUTS / (performance.now() - beganMs)) * MS;
  } finally {
    db.close();
    rmSync(folder, { recursive: true });
  }
}
