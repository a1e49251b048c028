import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { expect, test } from './app.ts';

test('a folder is watched: what appears in it is exported, counted, and can be put off', async ({
  app,
  page,
}) => {
  const folder = join(app.pictures, 'Raw exports');
  const out = join(app.pictures, 'Marked');
  mkdirSync(folder);
  mkdirSync(out);
  const post = (path: string, data: object) =>
    page.request.post(`${app.address}/api${path}`, { data });
  await page.request.post(`${app.address}/api/marks?name=m.svg`, {
    data: Buffer.from(MARK_SVG),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  await post('/presets', { name: 'Low right', markId: 1, rule: {} });
  const rule = { name_pattern: '{name}-marked' };
  await post('/deliveries', { name: 'Marked files', rule, folder: out });

  await page.goto(`${app.address}/batches`);
  await page.getByRole('button', { name: 'Watch a folder' }).click();
  const dialog = page.getByRole('dialog', { name: 'Watch a folder' });
  await dialog.getByRole('button', { name: 'Watch it' }).click();
  await expect(dialog.getByRole('alert')).toHaveText('Choose the folder.');
  await dialog.getByRole('button', { name: 'Choose a folder' }).click();
  const picker = page.getByRole('dialog', { name: 'The folder that is watched' });
  await picker.getByRole('button', { name: app.pictures, exact: true }).click();
  await picker.getByRole('button', { name: 'Raw exports' }).click();
  await picker.getByRole('button', { name: 'Watch this one' }).click();
  await expect(dialog.getByLabel('name')).toHaveValue('Raw exports');
  for (const box of await dialog.getByRole('checkbox').all()) await box.uncheck();
  await dialog.getByLabel('Marked files').check();
  await dialog.getByRole('button', { name: 'Watch it' }).click();

  const card = page.getByRole('article', { name: 'Watched folder Raw exports' });
  await expect(card).toContainText('watching');
  await expect(card).toContainText('Low right, by Marked files');
  await writeJpeg(join(folder, 'one.jpg'), { width: 300, height: 200 });
  await expect(card).toContainText('1 photo taken · 1 file written');
  mkdirSync(join(folder, 'day 2'));
  await writeJpeg(join(folder, 'day 2', 'two.jpg'), { width: 300, height: 200 });
  writeFileSync(join(folder, 'broken.jpg'), 'no photo at all');
  await expect(card).toContainText('1 could not be read', { timeout: 30_000 });
  expect(readdirSync(out).sort()).toEqual(['day 2', 'one-marked.jpg']);
  expect(readdirSync(join(out, 'day 2'))).toEqual(['two-marked.jpg']);
  await card.getByRole('button', { name: '1 could not be read' }).click();
  await expect(card).toContainText('broken.jpg is not a photo');

  // Off, it takes nothing; its runs can be looked at like any other.
  await card.getByLabel('on', { exact: true }).uncheck();
  await expect(card).toContainText('off');
  await writeJpeg(join(folder, 'three.jpg'), { width: 310, height: 200 });
  await page.waitForTimeout(4_000);
  expect(existsSync(join(out, 'three-marked.jpg'))).toBe(false);
  await card.getByLabel('on', { exact: true }).check();
  await expect.poll(() => existsSync(join(out, 'three-marked.jpg'))).toBe(true);
  await card.getByRole('link', { name: 'Last run' }).click();
  await expect(page.getByRole('heading', { name: /Raw exports/ })).toBeVisible();

  // A delivery that would feed the folder is refused with the reason.
  await post('/deliveries', { name: 'Into itself', rule, folder });
  await page.goto(`${app.address}/batches`);
  await card.getByRole('button', { name: 'More for Raw exports' }).click();
  await page.getByRole('menuitem', { name: 'Change' }).click();
  const change = page.getByRole('dialog', { name: 'Change Raw exports' });
  await change.getByLabel('Into itself').check();
  await change.getByRole('button', { name: 'Save' }).click();
  await expect(change.getByRole('alert')).toContainText('would be taken in again');
  await change.getByRole('button', { name: 'Cancel' }).click();

  await card.getByRole('button', { name: 'More for Raw exports' }).click();
  await page.getByRole('menuitem', { name: 'Stop watching' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Stop watching' }).click();
  await expect(card).toHaveCount(0);
  expect(existsSync(join(folder, 'one.jpg'))).toBe(true);
});
