import { mkdirSync, mkdtempSync, realpathSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser } from '@playwright/test';
import type { BatchView } from '#core/contract/http';
import { writeJpeg } from '../helpers/makePhoto.ts';
import { expect, expectAccessible, test, type App } from './app.ts';

/** What is kept without saving, what can be put back, and what is chosen without typing. */

test.use({ isDemo: true });

/** Another window that knows nothing of this one, as after the browser's data was cleared. */
async function freshWindow(browser: Browser, app: App, path: string) {
  const page = await (await browser.newContext()).newPage();
  await page.goto(app.address + path);
  return page;
}

test('a batch keeps its placement and its delivery without a preset', async ({
  app,
  page,
  browser,
}) => {
  await page.goto(`${app.address}/batches/2`);
  await expect(page.getByTestId('wall').getByRole('group').first()).toBeVisible();
  await page.getByLabel('Preset', { exact: true }).selectOption('New preset');
  await page.keyboard.press('7');
  await page.getByLabel('Size, exact').fill('23');
  await page.getByRole('checkbox', { name: /Client proofs/ }).check();
  await page.getByRole('link', { name: 'Batches' }).click();
  await page.getByRole('link', { name: /Breakwater mornings/ }).click();
  await expect(page.getByLabel('Size, exact')).toHaveValue('23');
  const placed = async () => {
    const answer = await page.request.get(`${app.address}/api/batches/2`);
    return ((await answer.json()) as { batch: BatchView }).batch.placing?.rule.size.value;
  };
  await expect.poll(placed).toBe(23);
  const other = await freshWindow(browser, app, '/batches/2');
  await expect(other.getByLabel('Size, exact')).toHaveValue('23');
  await expect(other.getByText('not saved yet')).toBeVisible();
  await expect(other.getByRole('checkbox', { name: /Client proofs/ })).toBeChecked();
  // Another batch is not touched by it.
  await other.goto(`${app.address}/batches/1`);
  await expect(other.getByLabel('Size, exact')).toHaveValue('16');
  await other.context().close();
});

test('a delivery is changed and made above the bench, without leaving the batch', async ({
  app,
  page,
}) => {
  await page.goto(`${app.address}/batches/2`);
  const change = page.getByRole('button', { name: 'Change Web gallery' });
  await change.click();
  const sheet = page.getByRole('region', { name: 'Delivery Web gallery' });
  await sheet.getByRole('button', { name: /px on the long side/ }).click();
  await sheet.getByLabel('Size').last().fill('900');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Done' }).last().click();
  await expect(page.getByText('JPEG, 900 px')).toBeVisible();
  await expect(page).toHaveURL(/batches\/2$/);
  await change.click();
  await page.getByRole('button', { name: 'New delivery' }).click();
  await page.getByRole('textbox', { name: 'Name' }).fill('For the printer');
  await page.getByRole('button', { name: 'Save' }).last().click();
  await expect(page.getByRole('checkbox', { name: /For the printer/ })).toBeChecked();
});

test('what is deleted is put back at a click, at once or from the bin', async ({ app, page }) => {
  await page.goto(`${app.address}/deliveries`);
  await page.getByRole('button', { name: 'More for Client proofs' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  const card = page.getByRole('article', { name: 'Client proofs' });
  await expect(card).toHaveCount(0);
  await page.getByRole('button', { name: 'Put it back' }).click();
  await expect(card).toBeVisible();
  await page.goto(`${app.address}/batches/1`);
  await page.getByRole('button', { name: 'Batch', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Delete the batch' }).click();
  await expect(page.getByText('Harbour after dark is deleted.')).toBeVisible();
  await page.goto(`${app.address}/settings`);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Put Harbour after dark back' }).click();
  await expect(page.getByText('It is empty.')).toBeVisible();
  await page.getByRole('link', { name: 'Batches' }).click();
  await expect(page.getByRole('link', { name: /Harbour after dark/ })).toBeVisible();
});

test('an earlier version of a preset is seen and taken back', async ({ app, page }) => {
  await page.goto(`${app.address}/presets/2`);
  const opacity = page.getByLabel('Opacity, exact');
  await opacity.fill('41');
  await opacity.press('Tab');
  await page.getByRole('button', { name: 'Save', exact: true }).last().click();
  await expect(page.getByText('is saved.')).toBeVisible();
  await page.getByRole('button', { name: /^More for/ }).click();
  await page.getByRole('menuitem', { name: 'Earlier versions' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('listitem')).toHaveCount(1);
  await expectAccessible(page);
  await dialog.getByRole('button', { name: 'Take back version 1' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(opacity).toHaveValue('85');
});

test('a folder is found, allowed and read without typing', async ({ app, page }) => {
  const away = realpathSync(mkdtempSync(join(tmpdir(), 'light-crest-card-')));
  mkdirSync(join(away, 'DCIM'));
  await writeJpeg(join(away, 'DCIM', 'a.jpg'), { width: 300, height: 200 });
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Read a folder in place' }).click();
  await expect(page.getByRole('heading', { name: 'Yours' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Home', exact: true }).click();
  // Up to the top, each folder as it comes.
  const path = page.getByTestId('folder-path');
  while ((await path.textContent())?.trim() !== '/') {
    const before = await path.textContent();
    await page.getByRole('button', { name: 'one up' }).click();
    await expect(path).not.toHaveText(before ?? '');
  }
  for (const name of join(away, 'DCIM').split('/').filter(Boolean))
    await page.getByRole('button', { name, exact: true }).click();
  await expect(page.getByText('will be allowed to read and write')).toBeVisible();
  await page.getByRole('button', { name: 'Read this folder' }).click();
  await expect(page.getByTestId('wall').getByRole('group')).toHaveCount(1);
});
