import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { expect, expectAccessible, test, type App } from './app.ts';

/** The wall and the bench by keyboard and number fields, selection, undo, and what is refused. */

const SHAPES = [
  { width: 600, height: 400 },
  { width: 400, height: 600 },
  { width: 900, height: 300 },
  { width: 500, height: 500 },
];

async function openBatch(app: App, page: Page): Promise<void> {
  const folder = join(app.pictures, 'Shore');
  mkdirSync(folder);
  for (const [index, shape] of SHAPES.entries()) {
    await writeJpeg(join(folder, `${index}.jpg`), { ...shape, seed: index });
  }
  const post = (path: string, data: object | string) =>
    page.request.post(`${app.address}/api${path}`, { data });
  await page.request.post(`${app.address}/api/marks?name=m.svg`, {
    data: Buffer.from(MARK_SVG),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  await post('/presets', { name: 'Low right', markId: 1, rule: {} });
  await post('/deliveries', { name: 'Gallery', presetId: 1, rule: {} });
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Read a folder in place' }).click();
  await page.getByRole('button', { name: app.pictures }).click();
  await page.getByRole('button', { name: 'Shore' }).click();
  await page.getByRole('button', { name: 'Read this folder' }).click();
  await expect(page.getByRole('heading', { name: 'Shore' })).toBeVisible();
  await expect(page.getByTestId('wall').getByRole('group')).toHaveCount(SHAPES.length);
}

test('many deliveries leave the photos the largest part of the view', async ({ app, page }) => {
  for (let number = 1; number <= 30; number++) {
    const data = { name: `Delivery ${number}`, rule: {} };
    await page.request.post(`${app.address}/api/deliveries`, { data });
  }
  await openBatch(app, page);
  const list = page.getByRole('group', { name: 'Deliveries' });
  await list.getByText('Delivery 30').scrollIntoViewIfNeeded();
  await expect(list.getByText('Delivery 30')).toBeInViewport();
  const [wall, rows] = [await page.getByTestId('wall').boundingBox(), await list.boundingBox()];
  expect(wall?.height).toBeGreaterThan(1.8 * (rows?.height ?? Infinity));
});

test('everything of the bench works from the keyboard, and can be undone', async ({
  app,
  page,
}) => {
  await openBatch(app, page);
  await expectAccessible(page);
  const inset = page.getByLabel('Inset up and down');
  await page.keyboard.press('7');
  await expect(page.getByText('high left')).toBeVisible();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(inset).toHaveValue('4');
  await page.keyboard.press('t');
  await page.keyboard.press('t');
  await expect(page.getByRole('radio', { name: 'Dark' })).toBeChecked();
  await page.keyboard.press('o');
  await expect(page.getByLabel('Opacity, exact')).toHaveValue('70');
  await page.keyboard.press('+');
  await expect(page.getByLabel('Size, exact')).toHaveValue('14.6');
  await expect(page.getByText('changed')).toBeVisible();
  await page.waitForTimeout(500);
  await page.keyboard.press('5');
  await page.waitForTimeout(500);
  await expect(page.getByText('centred', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('high left')).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByText('centred', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Put back' }).click();
  await expect(page.getByText('low right', { exact: true })).toBeVisible();
  await expect(page.getByText('changed')).toHaveCount(0);
});

test('number fields keep what was typed wrongly from reaching the preset', async ({
  app,
  page,
}) => {
  await openBatch(app, page);
  const size = page.getByLabel('Size, exact');
  await size.fill('0');
  await expect(size).toHaveAttribute('aria-invalid', 'true');
  await size.press('Tab');
  await expect(size).toHaveValue('14');
  await size.fill('31,5');
  await size.press('ArrowUp');
  await expect(size).toHaveValue('32');
});

test('some photos are selected and exported, the repeat covers them', async ({ app, page }) => {
  await openBatch(app, page);
  await page.keyboard.press('.');
  await page.keyboard.press('Space');
  await page.keyboard.press('.');
  await page.keyboard.press('Space');
  await expect(page.getByText('the 2 selected').first()).toBeVisible();
  await page.getByRole('radio', { name: 'all 4' }).click();
  await page.getByRole('button', { name: 'no repeat' }).click();
  await page.getByLabel('Repeat over the whole frame').check();
  await expect(page.getByText(/^\d+ %$/).first()).not.toHaveText('100 %');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByRole('button', { name: 'Export 2 files' }).click();
  await page.getByRole('button', { name: 'Start: 2 files' }).click();
  await expect(page.getByText('2 files written.')).toBeVisible();
});

test('a preset in use is not deleted, and the page says why', async ({ app, page }) => {
  await openBatch(app, page);
  await page.getByRole('link', { name: 'Presets' }).click();
  await expectAccessible(page);
  await page.getByRole('link', { name: /Low right/ }).click();
  await expect(page.getByRole('heading', { name: 'Low right' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'More for Low right' }).click();
  await page.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(page.getByText('Low right is used by the delivery Gallery.')).toBeVisible();
});

test('every other view has nothing for axe to find, and says what to do when empty', async ({
  app,
  page,
}) => {
  for (const [path, text] of [
    ['/marks', 'No mark yet'],
    ['/presets', 'No presets yet'],
    ['/batches', 'No batches yet'],
    ['/deliveries', 'No deliveries yet'],
    ['/runs', 'No runs yet'],
    ['/settings', 'Light Crest reads and writes only in these'],
    ['/nothing-here', 'Nothing is here'],
    ['/batches/99', 'That batch is not there any more.'],
    ['/presets/99', 'This preset is gone'],
  ]) {
    await page.goto(app.address + path);
    await expect(page.getByText(text)).toBeVisible();
    await expectAccessible(page);
  }
});

test('settings keep what was entered when they are refused', async ({ app, page }) => {
  await page.goto(`${app.address}/settings`);
  const field = page.getByLabel('Full path of a folder');
  await field.fill('/nowhere/at/all');
  await page.getByRole('button', { name: 'Allow' }).click();
  await expect(page.getByText('/nowhere/at/all is not there.')).toBeVisible();
  await expect(field).toHaveValue('/nowhere/at/all');
  await page.getByLabel('Name', { exact: true }).fill('Ines Marlow');
  await page.getByRole('button', { name: '© and this year' }).click();
  await expect(page.getByLabel('Copyright line')).toHaveValue(
    `© ${new Date().getFullYear()} Ines Marlow`,
  );
  // Saved as it is typed: leaving at once loses nothing.
  await page.getByRole('link', { name: 'Runs' }).click();
  await page.getByRole('link', { name: 'Settings' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Ines Marlow');
  await page.reload();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Ines Marlow');
});
