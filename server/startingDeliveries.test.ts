import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { openDatabase } from './db/open.ts';
import { openTables } from './db/tables.ts';
import { layStartingDeliveries } from './startingDeliveries.ts';

it('are there from the first start, without the place of a photo, and do not come back', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-first-'));
  const db = openDatabase(join(folder, 'test.sqlite'), folder);
  const tables = openTables(db, folder);
  await layStartingDeliveries(tables);
  await layStartingDeliveries(tables);
  const made = tables.deliveries.all();
  expect(made.map(({ name }) => name)).toEqual([
    ...['Web gallery', 'Full size', 'Client proofs', 'Square feed', 'Print 10 × 15 cm'],
  ]);
  expect(made.every(({ rule }) => rule.metadata.location === 'drop')).toBe(true);
  for (const { id } of made) tables.deliveries.remove(id);
  await layStartingDeliveries(tables);
  expect(tables.deliveries.all()).toEqual([]);
  db.close();
  rmSync(folder, { recursive: true });
});
