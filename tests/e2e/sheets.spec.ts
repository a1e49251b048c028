import { mkdirSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { BatchView, ExamplesView } from '#core/contract/http';
import { openPdf } from '../helpers/readPdf.ts';
import { expect, expectAccessible, test } from './app.ts';

test('a delivery becomes one to paper; its sheets are seen before the run, and are in the PDF after it', async ({
  app,
  page,
}) => {
  const out = join(app.pictures, 'Prints');
  mkdirSync(out);
  const laid = await page.request.post(`${app.address}/api/examples`);
  const { batchId } = (await laid.json()) as ExamplesView;
  const data = { name: 'Proofs', rule: {}, folder: out };
  await page.request.post(`${app.address}/api/deliveries`, { data });

  await page.goto(`${app.address}/deliveries`);
  const card = page.getByRole('article', { name: 'Proofs' });
  await card.getByRole('button', { name: 'a file of each photo' }).click();
  await card.getByRole('radio', { name: 'photos on paper' }).click();
  await expect(card.getByRole('button', { name: /A4 upright/ })).toBeVisible();
  await card.getByRole('button', { name: '{batch}' }).click();
  await expect(card.getByRole('alert')).toHaveCount(0);
  await card.getByRole('button', { name: /one photo a sheet/ }).click();
  await card.getByLabel('Columns').fill('3');
  await card.getByLabel('Rows').fill('4');
  await card.getByLabel('Rows').press('Enter');
  await card.getByLabel('with a line under each').check();
  await expect(
    card.getByRole('button', { name: '3 × 4 photos a sheet, with their names' }),
  ).toBeVisible();
  await expect(card.getByRole('img', { name: 'A sheet' })).toBeVisible();
  await card.getByRole('button', { name: /one PDF at 300 dpi/ }).click();
  await card.getByLabel('Pixels an inch').fill('100');
  await card.getByLabel('Pixels an inch').press('Enter');
  await expectAccessible(page);

  await page.goto(`${app.address}/batches/${batchId}`);
  for (const box of await page
    .getByRole('group', { name: 'Deliveries' })
    .getByRole('checkbox')
    .all())
    await box.uncheck();
  await page.getByRole('checkbox', { name: /Proofs/ }).check();
  await page.getByRole('button', { name: /^Export/ }).click();
  const sheets = page.getByRole('region', { name: 'The sheets' });
  await expect(sheets.getByRole('img', { name: 'Sheet 1 as it will be printed' })).toBeVisible();
  await expect(sheets).toContainText('2 sheets of 210 × 297 mm');
  await sheets.getByRole('button', { name: 'Sheet after' }).click();
  await expect(sheets.getByRole('img', { name: 'Sheet 2 as it will be printed' })).toBeVisible();
  await expect(sheets.getByRole('button', { name: 'Sheet after' })).toBeDisabled();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Start: 1 file' }).click();

  await expect(page.getByRole('link', { name: 'Download', exact: true })).toBeVisible();
  await expect(page.getByText('1 written, of 24 photos')).toBeVisible();
  const { name } = (
    (await (await page.request.get(`${app.address}/api/batches`)).json()) as BatchView[]
  ).find(({ id }) => id === batchId) as BatchView;
  expect(readdirSync(out)).toEqual([`${name}.pdf`]);
  const pdf = await openPdf(join(out, `${name}.pdf`));
  expect(pdf.pages).toBe(2);
  expect((await pdf.page(1)).images.length).toBeGreaterThanOrEqual(12);
  await pdf.close();
  await page.reload();
  await expect(page.getByRole('link', { name: 'Download', exact: true })).toBeVisible();
  await expectAccessible(page);
});
