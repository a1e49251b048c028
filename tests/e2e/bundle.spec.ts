import { MARK_SVG } from '../helpers/makePhoto.ts';
import { expect, test } from './app.ts';

test('a bundle is packed and taken in again, beside a preset that has its name', async ({
  app,
  page,
}) => {
  const post = (path: string, data: object) =>
    page.request.post(`${app.address}/api${path}`, { data });
  await page.request.post(`${app.address}/api/marks?name=Crest.svg`, {
    data: Buffer.from(MARK_SVG),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  await post('/presets', { name: 'Low right', markId: 1, rule: { opacity: 0.4 } });

  await page.goto(`${app.address}/settings`);
  await page.getByRole('button', { name: 'Pack a bundle' }).click();
  const packing = page.getByRole('dialog', { name: 'Pack a bundle' });
  await packing.getByLabel('Low right').check();
  // Its mark cannot be left behind.
  await expect(packing.getByLabel('Crest')).toBeChecked();
  await expect(packing.getByLabel('Crest')).toBeDisabled();
  const download = page.waitForEvent('download');
  await packing.getByRole('link', { name: 'Pack' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toMatch(/\.crest\.zip$/);
  const path = await file.path();

  // Meanwhile the preset here says something else.
  const before = await (await page.request.get(`${app.address}/api/presets`)).json();
  const { id, name, markId, version } = before.find(
    (one: { name: string }) => one.name === 'Low right',
  );
  await page.request.put(`${app.address}/api/presets/${id}`, {
    data: { name, markId, rule: { opacity: 0.9 }, baseVersion: version },
  });
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Take one in' }).click();
  await (await chooser).setFiles(path);
  const taking = page.getByRole('dialog', { name: 'Take in a bundle' });
  await expect(taking).toContainText('there already');
  await expect(taking).toContainText('the name is taken');
  await taking.getByRole('radio', { name: 'beside it' }).click();
  await taking.getByRole('button', { name: 'Take in' }).click();
  await expect(taking.getByRole('status')).toContainText('1 thing taken in, 1 left');
  await taking.getByRole('button', { name: 'Close' }).last().click();

  const after = await (await page.request.get(`${app.address}/api/presets`)).json();
  const opacities = Object.fromEntries(
    after.map((one: { name: string; rule: { opacity: number } }) => [one.name, one.rule.opacity]),
  );
  expect(opacities).toMatchObject({ 'Low right': 0.9, 'Low right 2': 0.4 });

  // What is no bundle is refused with the reason, and nothing else happens.
  const wrong = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Take one in' }).click();
  await (
    await wrong
  ).setFiles({ name: 'x.zip', mimeType: 'application/zip', buffer: Buffer.from('no') });
  await expect(page.getByText('found a file that is no ZIP')).toBeVisible();
});
