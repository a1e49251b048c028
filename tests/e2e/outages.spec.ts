import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import type { PresetView } from '#core/contract/http';
import { MARK_SVG, scene, writeJpeg } from '../helpers/makePhoto.ts';
import { expect, expectAccessible, test, type App } from './app.ts';

/** The server stopped and started, views left and come back to, two windows, folders unplugged. */

const ask = async <T>(app: App, path: string): Promise<T> =>
  (await (await fetch(`${app.address}/api${path}`)).json()) as T;

async function post(app: App, path: string, body: object): Promise<{ id: number }> {
  const answer = await fetch(`${app.address}/api${path}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  return (await answer.json()) as { id: number };
}

async function fill(app: App, photos = 4): Promise<string> {
  const folder = join(app.pictures, 'Shore');
  mkdirSync(folder);
  for (let seed = 0; seed < photos; seed++) {
    const name = `${String(seed).padStart(2, '0')}.jpg`;
    await writeJpeg(join(folder, name), { width: 900, height: 600, seed });
  }
  await fetch(`${app.address}/api/marks?name=m.svg`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/octet-stream' },
    body: MARK_SVG,
  });
  await post(app, '/presets', { name: 'Low right', markId: 1, rule: {} });
  await post(app, '/presets', { name: 'High left', markId: 1, rule: { anchor: 'top-left' } });
  await post(app, '/deliveries', { name: 'Gallery', presetId: 1, rule: {} });
  return folder;
}

async function openBatch(app: App, page: Page, photos: number): Promise<void> {
  const { id } = await post(app, '/batches', { name: 'Shore', presetId: 1 });
  await post(app, `/batches/${id}/folders`, { path: join(app.pictures, 'Shore') });
  await page.goto(`${app.address}/batches/${id}`);
  await expect(page.getByTestId('wall').getByRole('group')).toHaveCount(photos);
}

const link = (page: Page, name: string) => page.getByRole('navigation').getByRole('link', { name });
const sign = (page: Page) => page.getByRole('banner').getByRole('status');

test('what is changed while the server is away is saved when it is back', async ({ app, page }) => {
  await fill(app);
  await openBatch(app, page, 4);
  await page.keyboard.press('.');
  // All views are loaded ahead.
  await page.waitForLoadState('networkidle');
  await page.waitForTimeout(3_500);
  await app.kill();
  await page.keyboard.press('x');
  await expect(sign(page)).toContainText('not saved yet, the server is away');
  await expect(page.getByText('1 left out')).toBeVisible();
  await expectAccessible(page);
  // Another view and back: what waits is not forgotten, though the server is still away.
  await link(page, 'Batches').click();
  await expect(page.getByText('The server does not answer')).toBeVisible();
  await app.start();
  await expect(page.getByRole('heading', { name: 'Batches', level: 1 })).toBeVisible();
  await expect(sign(page)).toHaveText('');
  const { adjustments } = await ask<{ adjustments: object[] }>(app, '/batches/1');
  expect(adjustments).toMatchObject([{ adjustment: { leftOut: true } }]);
});

test('what a page could not send is sent by the next one', async ({ app, page }) => {
  await fill(app);
  await openBatch(app, page, 4);
  await page.keyboard.press('.');
  await app.kill();
  await page.keyboard.press('x');
  await expect(sign(page)).toContainText('not saved yet');
  await page.close({ runBeforeUnload: false });
  await app.start();
  const next = await page.context().newPage();
  await next.goto(app.address);
  await expect
    .poll(async () => (await ask<{ adjustments: object[] }>(app, '/batches/1')).adjustments)
    .toHaveLength(1);
  await next.close();
});

test('a changed preset outlives leaving, a reload and a restart, and says so', async ({
  app,
  page,
}) => {
  await fill(app);
  await openBatch(app, page, 4);
  const size = page.getByLabel('Size, exact');
  await page.keyboard.press('+');
  await page.keyboard.press('7');
  await expect(size).toHaveValue('14.6');
  const stillChanged = async (): Promise<void> => {
    await expect(page.getByText('changed, not saved')).toBeVisible();
    await expect(size).toHaveValue('14.6');
    await expect(page.getByRole('radio', { name: 'high left' })).toBeChecked();
  };
  await link(page, 'Marks').click();
  await expect(page.getByRole('heading', { name: 'Marks', level: 1 })).toBeVisible();
  await page.goBack();
  await stillChanged();
  await page.reload();
  await stillChanged();
  await app.kill();
  await app.start();
  await page.reload();
  await stillChanged();
  // Another preset meanwhile, and back.
  await page.getByLabel('Preset', { exact: true }).selectOption({ label: 'High left' });
  await expect(size).toHaveValue('14');
  await page.getByLabel('Preset', { exact: true }).selectOption({ label: 'Low right' });
  await stillChanged();
  await page.getByRole('button', { name: 'Put back' }).click();
  await page.reload();
  await expect(size).toHaveValue('14');
  await expect(page.getByText('changed, not saved')).toBeHidden();
});

test('two windows on one preset: the later is told, and takes over or keeps', async ({
  app,
  page,
}) => {
  await fill(app);
  const other = await page.context().newPage();
  for (const window of [page, other]) {
    await window.goto(`${app.address}/presets/1`);
    await expect(window.getByLabel('Size, exact')).toHaveValue('14');
  }
  await page.bringToFront();
  await page.getByLabel('Size, exact').fill('20');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save', exact: true }).first().click();
  await expect(page.getByText('is saved.')).toBeVisible();
  // Not changed there, the other window follows.
  await expect(other.getByLabel('Size, exact')).toHaveValue('20');
  await other.bringToFront();
  await other.getByLabel('Size, exact').fill('30');
  await other.keyboard.press('Enter');
  await expect(other.getByText('changed, not saved')).toBeVisible();
  await page.bringToFront();
  await page.getByLabel('Size, exact').fill('40');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Save', exact: true }).first().click();
  await other.bringToFront();
  await expect(other.getByText('changed here and in another window')).toBeVisible();
  await other.getByRole('button', { name: 'Save', exact: true }).first().click();
  const question = other.getByRole('dialog', { name: 'Changed in two windows' });
  await expect(question).toContainText('Low right was changed in another window');
  await expectAccessible(other);
  await question.getByRole('button', { name: 'Keep mine' }).click();
  await expect(question).toBeHidden();
  const value = async () => (await ask<PresetView[]>(app, '/presets'))[0].rule.size.value;
  await expect.poll(value).toBe(30);
  await expect(page.getByLabel('Size, exact')).toHaveValue('30');
});

test('a folder that is being read goes on after a restart, or waits for its disk', async ({
  app,
  page,
}) => {
  const folder = await fill(app, 40);
  const { id } = await post(app, '/batches', { name: 'Shore', presetId: 1 });
  await page.goto(`${app.address}/batches/${id}`);
  await post(app, `/batches/${id}/folders`, { path: folder });
  await app.kill();
  renameSync(folder, `${folder} away`);
  await app.start();
  await expect(page.getByRole('alert')).toContainText('is not there');
  await expectAccessible(page);
  renameSync(`${folder} away`, folder);
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByText('40 photos', { exact: true })).toBeVisible();
  await expect(page.getByRole('alert')).toBeHidden();
});

test('a photo that was changed on disk is shown as it is, and said', async ({ app, page }) => {
  const folder = await fill(app);
  await openBatch(app, page, 4);
  writeFileSync(
    join(folder, '00.jpg'),
    await scene({ width: 700, height: 900, seed: 50 }).jpeg().toBuffer(),
  );
  // Looked through again when the batch is opened a while later.
  await page.waitForTimeout(5_500);
  await page.reload();
  const notes = page.getByRole('region', { name: 'Changed on disk' });
  await expect(notes).toContainText('1 photo not as when added');
  await notes.getByRole('button', { name: 'Which' }).click();
  await expect(notes).toContainText('00.jpg It has changed on disk');
  const picture = page.getByTestId('wall').locator('img[src*="v=2"]').first();
  await expect(picture).toBeVisible();
  await expectAccessible(page);
});

test('files that are dropped while the server is away come in when it is back', async ({
  app,
  page,
}) => {
  await fill(app);
  const { id } = await post(app, '/batches', { name: 'Dropped', presetId: 1 });
  await page.goto(`${app.address}/batches/${id}`);
  await expect(page.getByRole('heading', { name: 'No photos yet' })).toBeVisible();
  await app.kill();
  const photos = [0, 1, 2].map((number) => join(app.pictures, 'Shore', `0${number}.jpg`));
  const choosing = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose photos' }).click();
  await (await choosing).setFiles(photos);
  await expect(page.getByText('waiting for the server')).toBeVisible();
  await app.start();
  await expect(page.getByTestId('wall').getByRole('group')).toHaveCount(3);
});

test('a first view that did not come since the server was away opens when it is back', async ({
  app,
  page,
}) => {
  const isPart = (address: URL): boolean => address.pathname.includes('/assets/MarksView');
  await page.route(isPart, (route) => route.abort('connectionrefused'));
  await page.route('**/api/**', (route) => route.abort());
  await page.goto(`${app.address}/marks`);
  await expect(page.getByRole('alert')).toContainText('did not work');
  await expectAccessible(page);
  await page.unroute(isPart);
  await page.unroute('**/api/**');
  await expect(page.getByRole('heading', { name: 'No mark yet' })).toBeVisible();
});

test('a view that could not be loaded ahead opens once the server answers', async ({
  app,
  page,
}) => {
  await page.route('**/*.wasm', (route) => route.abort());
  // It is asked for twice before it is given up.
  const failed = page.waitForEvent('console', (message) => message.text().startsWith('Aborted('));
  await page.goto(`${app.address}/marks`);
  await failed;
  await page.unroute('**/*.wasm');
  await page.getByRole('link', { name: 'Compose one' }).click();
  await expect(page.getByRole('button', { name: 'Over a line' })).toBeVisible();
  await expect(page).toHaveURL(/\/marks\/compose$/);
});

test('a change whose answer was lost is saved once, and asks nothing', async ({ app, page }) => {
  await page.goto(`${app.address}/settings`);
  let lost = 0;
  await page.route('**/api/settings', async (route) => {
    if (route.request().method() !== 'PUT' || lost++ > 0) return route.fallback();
    await route.fetch();
    await route.abort('connectionreset');
  });
  await page.getByRole('radio', { name: 'black' }).click();
  await expect.poll(() => lost).toBe(2);
  await page.getByRole('radio', { name: 'paper' }).click();
  await expect
    .poll(async () => (await ask<{ surround: string }>(app, '/settings')).surround)
    .toBe('paper');
  await expect(sign(page)).toBeEmpty();
  await expect(page.getByRole('dialog')).toBeHidden();
});
