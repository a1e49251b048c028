import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { BatchView, DeliveryView, RunDetailView, RunView } from '#core/contract/http';
import { MARK_SVG, writeJpeg } from '../helpers/makePhoto.ts';
import { expect, expectAccessible, test, type App } from './app.ts';

/** A run under way, and after it. */

const PHOTOS = 8;

async function send<T>(app: App, path: string, body: string | object): Promise<T> {
  const isText = typeof body === 'string';
  const answer = await fetch(`${app.address}/api${path}`, {
    method: 'POST',
    headers: { 'Content-Type': isText ? 'application/octet-stream' : 'application/json' },
    body: isText ? body : JSON.stringify(body),
  });
  return (await answer.json()) as T;
}

/** A batch of eight photos, a mark and a delivery that takes its time. */
async function prepared(app: App) {
  const folder = join(app.pictures, 'photos');
  const out = join(app.pictures, 'out');
  mkdirSync(folder);
  mkdirSync(out);
  for (let at = 1; at <= PHOTOS; at++) {
    await writeJpeg(join(folder, `${at}.jpg`), { width: 1_800, height: 1_200, seed: at });
  }
  const batch = await send<BatchView>(app, '/batches', { name: 'Long' });
  await send(app, `/batches/${batch.id}/folders`, { path: folder });
  await expect
    .poll(async () => {
      const batches = (await (await fetch(`${app.address}/api/batches`)).json()) as BatchView[];
      return batches[0].photoCount;
    })
    .toBe(PHOTOS);
  const mark = await send<{ id: number }>(app, '/marks?name=red.svg', MARK_SVG);
  const rule = { resize: null, file: { type: 'webp', quality: 90 } };
  const body = { name: 'Slow', rule, folder: out };
  const delivery = await send<DeliveryView>(app, '/deliveries', body);
  const wish = {
    ...{ batchId: batch.id, deliveryIds: [delivery.id], presetName: 'Some', markId: mark.id },
    ...{ rule: {}, photoIds: null },
  };
  return { folder, wish };
}

test('pause and go on; a damaged photo is told, and goes out once it was replaced', async ({
  app,
  page,
}) => {
  const { folder, wish } = await prepared(app);
  const good = readFileSync(join(folder, '5.jpg'));
  writeFileSync(join(folder, '5.jpg'), good.subarray(0, good.length / 2));
  const { id } = await send<RunView>(app, '/runs', wish);
  await page.goto(`${app.address}/runs/${id}`);
  await page.getByRole('button', { name: 'Pause' }).click();
  const going = page.locator('#main').getByText(/of 8 files, paused/);
  await expect(going).toBeVisible();
  await expectAccessible(page);
  // What was in work is finished, and no more is begun.
  await page.waitForTimeout(2_500);
  const paused = await going.textContent();
  await page.waitForTimeout(1_500);
  expect(await going.textContent()).toBe(paused);
  expect(Number(paused?.trim().split(' ')[0])).toBeLessThan(PHOTOS);

  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByText('7 written, 1 failed')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('5.jpg is damaged or cut short')).toBeVisible();
  await expect(page.getByText('all verified')).toBeVisible();
  await expectAccessible(page);

  writeFileSync(join(folder, '5.jpg'), good);
  await page.getByRole('button', { name: 'Retry failed' }).click();
  await expect(page.getByText('8 written', { exact: false })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('Nothing failed')).toBeVisible();

  // Before and after by holding, at 100 %.
  await page.getByTestId('outputs').getByRole('button').first().click();
  const look = page.getByTestId('output-look');
  await expect(look).toBeVisible();
  await page.keyboard.down('b');
  await expect(page.getByTestId('before')).toBeVisible();
  await page.keyboard.up('b');
  await expect(page.getByTestId('before')).toBeHidden();
  await expectAccessible(page);
});

test('two runs change places; photos that came since go out by one click', async ({
  app,
  page,
}) => {
  const { folder, wish } = await prepared(app);
  const runs = [await send<RunView>(app, '/runs', wish), await send<RunView>(app, '/runs', wish)];
  for (const { id } of runs) await send(app, `/runs/${id}/pause`, {});
  await page.goto(`${app.address}/runs`);
  const order = page.getByRole('region', { name: 'The order of runs under way' });
  await expect(order.getByRole('listitem')).toHaveCount(2);
  await expectAccessible(page);
  await order
    .getByRole('button', { name: /earlier/ })
    .last()
    .click();
  const turns = async () => {
    const all = (await (await fetch(`${app.address}/api/runs`)).json()) as RunView[];
    return runs.map(({ id }) => all.find((run) => run.id === id)?.turn ?? 0);
  };
  await expect.poll(async () => (await turns())[0] > (await turns())[1]).toBe(true);

  for (const { id } of runs) await send(app, `/runs/${id}/resume`, {});
  await writeJpeg(join(folder, 'late.jpg'), { width: 900, height: 600, seed: 77 });
  await send(app, `/batches/${wish.batchId}/folders`, { path: folder });
  await page.goto(`${app.address}/runs/${runs[1].id}`);
  await page.getByRole('button', { name: 'Again with 1 photo added since' }).click({
    timeout: 60_000,
  });
  await expect(page).not.toHaveURL(new RegExp(`/runs/${runs[1].id}$`));
  await expect(page.getByText('1 written')).toBeVisible({ timeout: 30_000 });
});

test('one photo goes out alone from its tile, by another delivery than the bench has', async ({
  app,
  page,
}) => {
  const { wish } = await prepared(app);
  const rule = { resize: { px: 400 }, name_pattern: '{name}-small' };
  await send(app, '/deliveries', { name: 'Small', rule, folder: join(app.pictures, 'out') });
  const preset = { name: 'Some', markId: wish.markId, rule: {} };
  const { id: presetId } = await send<{ id: number }>(app, '/presets', preset);
  await page.request.patch(`${app.address}/api/batches/${wish.batchId}`, {
    data: { presetId, deliveryIds: wish.deliveryIds },
  });
  await page.goto(`${app.address}/batches/${wish.batchId}`);
  await page.getByRole('group', { name: '3.jpg' }).hover();
  await page.getByRole('button', { name: '3.jpg goes out alone' }).click();
  const confirm = page.getByRole('region', { name: 'Confirm the export' });
  await expect(confirm).toContainText('3.jpg');
  await confirm.getByRole('combobox', { name: 'by' }).selectOption('Small');
  await expect(confirm.getByRole('heading')).toHaveText(['Small']);
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Start: 1 file' }).click();
  await expect(page.getByText('1 written')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByTestId('outputs').getByRole('button')).toHaveAttribute(
    'title',
    /3-small\.jpg/,
  );
  // The bench has what it had.
  await page.goto(`${app.address}/batches/${wish.batchId}`);
  await expect(page.getByRole('checkbox', { name: /Slow/ })).toBeChecked();
  await expect(page.getByRole('checkbox', { name: /Small/ })).not.toBeChecked();
});

test('a delivery lays presets of its own where the wall shows another, and can take those of the wall', async ({
  app,
  page,
}) => {
  const { wish } = await prepared(app);
  const preset = (name: string, rule: object) =>
    send<{ id: number }>(app, '/presets', { name, markId: wish.markId, rule });
  const low = await preset('Low', { anchor: 'bottom' });
  const high = await preset('High', { anchor: 'top' });
  const own = { name: 'Proofs', rule: {}, presetId: high.id, folder: join(app.pictures, 'out') };
  const { id } = await send<{ id: number }>(app, '/deliveries', own);
  const batch = `${app.address}/batches/${wish.batchId}`;
  await page.request.patch(`${app.address}/api/batches/${wish.batchId}`, {
    data: { presetId: low.id, deliveryIds: wish.deliveryIds },
  });
  const confirm = page.getByRole('region', { name: 'Confirm the export' });
  const anchor = async (): Promise<string | undefined> => {
    await page.getByRole('button', { name: 'Start: 1 file' }).click();
    await expect(page.getByText('1 written')).toBeVisible();
    const run = await page.request.get(`${app.address}/api${new URL(page.url()).pathname}`);
    const { items } = (await run.json()) as RunDetailView;
    return items[0].placement?.anchor;
  };

  const { photos } = (await (
    await page.request.get(`${app.address}/api/batches/${wish.batchId}`)
  ).json()) as { photos: { id: number }[] };
  await page.goto(`${batch}?confirm=${id}&photo=${photos[0].id}`);
  await expect(confirm).toContainText('With High, as Proofs has it.');
  expect(await anchor()).toBe('top');

  // On the bench it is what is seen, unless its own are asked for.
  await page.goto(batch);
  await page.getByRole('checkbox', { name: /Slow/ }).uncheck();
  await page.getByRole('checkbox', { name: /Proofs/ }).check();
  await page.getByRole('checkbox', { name: 'Select 1.jpg' }).check({ force: true });
  await page.getByRole('button', { name: /^Export 1 file/ }).click();
  await expect(confirm).toContainText('With Low, as the wall shows it.');
  await confirm.getByRole('button', { name: 'Take what Proofs has' }).click();
  await expect(confirm).toContainText('With High, as Proofs has it.');
  await confirm.getByRole('button', { name: 'Take what the wall shows' }).click();
  await expect(confirm).toContainText('With Low, as the wall shows it.');
  await expectAccessible(page);
  expect(await anchor()).toBe('bottom');
});
