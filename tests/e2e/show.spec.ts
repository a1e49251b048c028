import { mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Page } from '@playwright/test';
import type { RunView } from '#core/contract/http';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { expect, expectAccessible, test, type App } from './app.ts';

/** A show of five photos, made by the page. @returns its folder */
async function madeShow(app: App, page: Page): Promise<string> {
  const photos = join(app.pictures, 'Shore');
  const out = join(app.pictures, 'Shows');
  mkdirSync(photos);
  mkdirSync(out);
  for (let seed = 1; seed <= 5; seed++) {
    await writeJpeg(join(photos, `${seed}.jpg`), { width: 300, height: 200, seed });
  }
  const post = async (path: string, data: object) =>
    (await page.request.post(`${app.address}/api${path}`, { data })).json() as Promise<{
      id: number;
    }>;
  await page.request.post(`${app.address}/api/marks?name=m.svg`, {
    data: Buffer.from(MARK_SVG),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  const { id } = await post('/batches', { name: 'Shore' });
  await page.request.post(`${app.address}/api/batches/${id}/folders`, { data: { path: photos } });
  await post('/presets', { name: 'Low right', markId: 1, rule: {} });
  await post('/deliveries', { name: 'Evening', rule: {}, folder: out });

  await page.goto(`${app.address}/deliveries`);
  const card = page.getByRole('article', { name: 'Evening' });
  await card.getByRole('button', { name: 'a file of each photo' }).click();
  await card.getByRole('radio', { name: 'a show of all photos' }).click();
  await card.getByRole('button', { name: /each for 5 s, fading into the next/ }).click();
  await card.getByLabel('a card first').check();
  await card.getByLabel('Words on the card').fill('Mornings at the shore');
  await card.getByLabel('Words on the card').press('Enter');
  await card.getByLabel('a line under each').check();
  await expect(card.getByRole('button', { name: /“Mornings at the shore” first/ })).toBeVisible();
  await expectAccessible(page);

  await page.goto(`${app.address}/batches/${id}`);
  await expect(page.getByText('5 photos', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: /^Export/ }).click();
  await page.getByRole('button', { name: 'Start: 1 file' }).click();
  await expect(page.getByRole('link', { name: 'Play' })).toBeVisible();
  expect(readdirSync(out)).toEqual(['Shore']);
  return join(out, 'Shore');
}

const slideOf = (page: Page) => page.locator('body').getAttribute('data-at');
const heldPhotos = (page: Page) => page.locator('#stage img[src^="photos/"]').count();

test('a show plays from its folder without any network: by itself, by keys, buttons and a swipe', async ({
  app,
  page,
  context,
}) => {
  const folder = await madeShow(app, page);
  const [run] = (await (await page.request.get(`${app.address}/api/runs`)).json()) as RunView[];
  // Played from Light Crest itself, under its own rules of what a page may load.
  await page.goto(`${app.address}/api/runs/${run.id}/shows/1/index.html`);
  await expect(page.getByRole('heading', { name: 'Mornings at the shore' })).toBeVisible();

  await page.keyboard.press('ArrowRight');
  await expect.poll(() => slideOf(page)).toBe('1');
  await expectAccessible(page);

  await context.setOffline(true);
  await page.goto(pathToFileURL(join(folder, 'index.html')).href);
  await expect(page).toHaveTitle('Shore');
  await expect(page.getByRole('heading', { name: 'Mornings at the shore' })).toBeVisible();
  await expect(page.locator('.card img')).toHaveJSProperty('complete', true);
  await expect.poll(() => slideOf(page), { timeout: 9_000 }).toBe('1');
  await expect(page.locator('.seen figcaption')).toHaveText('1');

  await page.getByRole('button', { name: 'Pause' }).click();
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => slideOf(page)).toBe('2');
  await expect(page.getByRole('status')).toHaveText('Photo 2 of 5: 2');
  for (const key of ['ArrowRight', 'ArrowRight', 'ArrowLeft', 'End', 'Home', 'ArrowLeft']) {
    await page.keyboard.press(key);
    expect(await heldPhotos(page)).toBeLessThanOrEqual(3);
  }
  // Over and over: before the card comes the last photo.
  await expect.poll(() => slideOf(page)).toBe('5');
  await page.mouse.move(500, 300);
  await page.mouse.down();
  await page.mouse.move(300, 300);
  await page.mouse.up();
  await expect.poll(() => slideOf(page)).toBe('0');
  await page.getByRole('button', { name: 'After' }).click();
  await expect.poll(() => slideOf(page)).toBe('1');
  await page.keyboard.press('f');
  await expect.poll(() => page.evaluate(() => document.fullscreenElement !== null)).toBe(true);

  // With less motion it only cuts.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.reload();
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => slideOf(page)).toBe('1');
  await expect(page.locator('.slide')).toHaveCount(1);
});
