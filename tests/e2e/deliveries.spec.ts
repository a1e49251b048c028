import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import type { BatchView, RunDetailView, RunView } from '#core/contract/http';
import type { Settings } from '#core/contract/settings';
import { expect, expectAccessible, test, type App } from './app.ts';

/** A batch that goes out by two deliveries at once. */

test.use({ isDemo: true });

const ask = async <T>(app: App, path: string): Promise<T> =>
  (await (await fetch(`${app.address}/api${path}`)).json()) as T;

test('two deliveries in one run: a collision told and kept both, a ZIP of all', async ({
  app,
  page,
}) => {
  // The photos lie where only the demo itself is allowed to read.
  const photoFolder = fileURLToPath(new URL('../../demo/photos', import.meta.url));
  const { settings } = await ask<{ settings: Settings }>(app, '/settings');
  const data = { ...settings, folders: [photoFolder] };
  const allowed = await page.request.put(`${app.address}/api/settings`, { data });
  expect(allowed.ok()).toBe(true);
  const batches = await ask<BatchView[]>(app, '/batches');
  // It went out by one of them before.
  const [before] = await ask<RunView[]>(app, '/runs');
  const batch = batches.find(({ id }) => id === before.batchId);
  const photos = batch?.photoCount ?? 0;
  await page.goto(`${app.address}/batches/${batch?.id}`);
  const deliveries = page.getByRole('group', { name: 'Deliveries' });
  await expect(deliveries.getByRole('checkbox', { checked: true })).toHaveCount(1);
  await deliveries.getByRole('checkbox', { name: /Client proofs/ }).check();
  await page.getByRole('button', { name: `Export ${2 * photos} files` }).click();

  const confirm = page.getByRole('region', { name: 'Confirm the export' });
  await expect(confirm.getByRole('heading')).toHaveText(['Web gallery', 'Client proofs']);
  await expect(confirm).toContainText(`Web gallery: ${photos} files of these names exist`);
  await expect(confirm).toContainText('both are kept');
  // The second has a preset of its own.
  await expect(confirm).toContainText('Signature all over, proofs');
  await expectAccessible(page);
  await page.getByRole('button', { name: `Start: ${2 * photos} files` }).click();
  await expect(page.getByText(`${2 * photos} written`)).toBeVisible({ timeout: 60_000 });
  await expectAccessible(page);

  const outputs = page.getByTestId('outputs').getByRole('button');
  await expect(outputs).toHaveCount(2 * photos);
  await expect(page.getByText('all verified')).toBeVisible();
  await expect(outputs.locator('[data-verified=true]')).toHaveCount(2 * photos);
  await page.getByRole('radio', { name: 'Client proofs' }).click();
  await expect(outputs).toHaveCount(photos);

  const [run] = await ask<RunView[]>(app, '/runs');
  const { items } = await ask<RunDetailView>(app, `/runs/${run.id}`);
  for (const { delivery, frame, outputName } of items) {
    expect(Math.max(frame?.width ?? 0, frame?.height ?? 0)).toBe(delivery === 1 ? 2_048 : 1_200);
    if (delivery === 1) expect(outputName).toMatch(/-web-2\.jpg$/);
  }

  const folder = mkdtempSync(join(tmpdir(), 'light-crest-zip-'));
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: /as ZIP/ }).click();
  const zip = join(folder, 'all.zip');
  await (await waiting).saveAs(zip);
  execFileSync('python3', ['-m', 'zipfile', '-e', zip, folder]);
  for (const name of ['Web gallery', 'Client proofs']) {
    const files = readdirSync(join(folder, name));
    expect(files).toHaveLength(photos);
    for (const file of files) await sharp(join(folder, name, file)).stats();
  }
  rmSync(folder, { recursive: true });

  // Come back to, the batch has both ticked.
  await page.goto(`${app.address}/batches/${batch?.id}`);
  await expect(deliveries.getByRole('checkbox', { checked: true })).toHaveCount(2);
});

test('a delivery is tried on one photo: the file beside the photo, measured and verified', async ({
  app,
  page,
}) => {
  const photoFolder = fileURLToPath(new URL('../../demo/photos', import.meta.url));
  const { settings } = await ask<{ settings: Settings }>(app, '/settings');
  const data = { ...settings, folders: [photoFolder] };
  await page.request.put(`${app.address}/api/settings`, { data });
  await page.goto(`${app.address}/deliveries`);
  const card = page.getByRole('article', { name: 'Web gallery' });
  await card.getByRole('button', { name: /JPEG of quality/ }).click();
  await card.getByRole('textbox', { name: 'Quality' }).fill('60');
  await card.getByRole('button', { name: 'Try it on one photo' }).click();
  const told = card.getByRole('status');
  await expect(told).toContainText(/-web\.jpg, 2048 × \d+ px, \d+ KB of \d+ KB, verified/, {
    timeout: 30_000,
  });
  const [before, after] = [
    card.getByLabel('The photo at 100 %'),
    card.getByLabel('The file at 100 %'),
  ];
  for (const pane of [before, after]) {
    await expect(pane.locator('img')).toHaveJSProperty('naturalWidth', 2_048);
  }
  await after.evaluate((pane) => pane.scrollTo(40, 30));
  await expect.poll(() => before.evaluate((pane) => pane.scrollLeft)).toBe(40);
  await expectAccessible(page);
  // What it says now makes another file.
  await card.getByRole('radio', { name: /untouched/ }).click();
  await expect(after).toHaveCount(0);
  await expect(card.getByRole('button', { name: 'the photo’s own colours' })).toBeVisible();
  await card.getByRole('button', { name: 'Try it on one photo' }).click();
  await expect(told).toContainText('verified', { timeout: 30_000 });
});

test('a delivery as a ZIP is downloaded by itself, with its files alone', async ({ app, page }) => {
  const photoFolder = fileURLToPath(new URL('../../demo/photos', import.meta.url));
  const { settings } = await ask<{ settings: Settings }>(app, '/settings');
  const data = { ...settings, folders: [photoFolder] };
  await page.request.put(`${app.address}/api/settings`, { data });
  await page.goto(`${app.address}/deliveries`);
  const card = page.getByRole('article', { name: 'Client proofs' });
  await card.getByRole('button', { name: 'a folder of the batch’s name' }).click();
  await card.getByRole('checkbox', { name: /as one ZIP when a run has ended/ }).check();
  await expect(card.getByRole('button', { name: /, downloaded as a ZIP/ })).toBeVisible();
  await expectAccessible(page, card);

  const [before] = await ask<RunView[]>(app, '/runs');
  const { photoCount } = (await ask<{ batch: BatchView }>(app, `/batches/${before.batchId}`)).batch;
  await page.goto(`${app.address}/batches/${before.batchId}`);
  const deliveries = page.getByRole('group', { name: 'Deliveries' });
  await deliveries.getByRole('checkbox', { name: /Client proofs/ }).check();
  await page.getByRole('button', { name: `Export ${2 * photoCount} files` }).click();
  const waiting = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: `Start: ${2 * photoCount} files` }).click();
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-zip-'));
  const zip = join(folder, 'proofs.zip');
  await (await waiting).saveAs(zip);
  execFileSync('python3', ['-m', 'zipfile', '-e', zip, folder]);
  expect(readdirSync(join(folder, 'Client proofs'))).toHaveLength(photoCount);
  expect(readdirSync(folder).sort()).toEqual(['Client proofs', 'proofs.zip']);
  rmSync(folder, { recursive: true });
});
