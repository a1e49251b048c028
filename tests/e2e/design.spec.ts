import { mkdirSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import type { DesignView, MarkShapeView, MarkView, RunDetailView } from '#core/contract/http';
import { writeCameraJpeg, writeJpeg } from '../helpers/makePhoto.ts';
import { expect, expectAccessible, test } from './app.ts';

/** A mark is composed of layers, finished, taken back, saved, placed and exported. */

const ICON =
  '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 100"><circle cx="50" cy="50" r="48"/><circle cx="50" cy="50" r="20" fill="#fff"/></svg>';

async function get<T>(page: Page, address: string, path: string): Promise<T> {
  return (await page.request.get(`${address}/api${path}`)).json() as Promise<T>;
}

/** Names of the layers, the topmost first. */
const stack = (page: Page) => page.getByRole('complementary', { name: 'Layers' });
const cards = (page: Page) => stack(page).locator('li .name');

test('a mark of icon, name and year is composed, finished, placed and exported', async ({
  app,
  page,
}) => {
  await page.request.put(`${app.address}/api/settings`, {
    data: { name: 'Ines Marlow', copyright: '© Ines Marlow', palette: [], folders: [] },
  });
  await page.goto(`${app.address}/marks`);
  await page.getByRole('link', { name: 'Compose one' }).click();
  await expect(page.getByRole('button', { name: 'Over a line' })).toBeVisible();
  await expect(page.getByLabel('Name on the mark')).toHaveValue('Ines Marlow');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Over a line' }).click();
  await page.waitForURL(/\/marks\/\d+\/design/);
  await expect(cards(page)).toHaveText(['Year', 'Ines Marlow']);
  await expectAccessible(page);

  // An icon beside the name.
  await page
    .getByLabel('Artwork for a layer')
    .setInputFiles({ name: 'icon.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(ICON) });
  await expect(cards(page)).toHaveText(['icon.svg', 'Year', 'Ines Marlow']);
  await page.getByLabel('Width', { exact: true }).fill('150');
  await page.getByLabel('Middle, across').fill('-600');
  await page.getByLabel('Middle, down').fill('0');
  await expect(page.getByLabel('Height', { exact: true })).toHaveValue('150');

  // It goes to the bottom of the stack, by keys.
  const icon = stack(page).getByRole('button', { name: 'icon.svg', exact: true });
  await icon.focus();
  await icon.press('Alt+ArrowDown');
  await icon.press('Alt+ArrowDown');
  await expect(cards(page)).toHaveText(['Year', 'Ines Marlow', 'icon.svg']);

  // The name gets another font by the arrow keys, an outline and a shadow.
  await page.locator('.hold[aria-label="Ines Marlow"]').click();
  await page.getByRole('button', { name: 'Great Vibes' }).click();
  await page.getByLabel('Search fonts').fill('sans');
  const fontList = page.getByRole('listbox', { name: 'Fonts' });
  await expect(fontList.getByRole('option')).toHaveCount(2);
  await page.getByLabel('Search fonts').press('ArrowDown');
  await expect(fontList.getByRole('option', { selected: true })).toHaveCount(1);
  await page.getByLabel('Search fonts').press('Enter');
  await expect(page.getByRole('button', { name: 'Josefin Sans' })).toBeVisible();
  const finishes = page.getByRole('region', { name: 'Finishes' });
  await finishes.getByRole('button', { name: 'Outline' }).click();
  await page.getByLabel('Outline, width, exact').fill('1.2');
  await page.getByRole('button', { name: 'Done', exact: true }).first().click();
  await finishes.getByRole('button', { name: 'Shadow' }).click();
  await expect(finishes.getByRole('button', { name: 'Shadow' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expectAccessible(page);

  // Undo says what it takes back, and takes back one thing at a time.
  const mark = page.getByRole('region', { name: 'Mark', exact: true });
  await expect(mark.getByRole('button', { name: /^Undo/ })).toContainText('Add shadow');
  await page.keyboard.press('Control+z');
  await expect(finishes.getByRole('button', { name: 'Shadow' })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
  await page.keyboard.press('Control+Shift+z');
  await expect(finishes.getByRole('button', { name: 'Shadow' })).toHaveAttribute(
    'aria-pressed',
    'true',
  );

  // Saved as one goes.
  await expect(mark.getByRole('status')).toHaveText('saved');
  const id = Number(/marks\/(\d+)/.exec(page.url())?.[1]);
  const view = await get<DesignView>(page, app.address, `/marks/${id}/design`);
  expect(view.design.layers.map(({ name }) => name)).toEqual(['icon.svg', 'Ines Marlow', 'Year']);
  const name = view.design.layers[1];
  expect(name.finishes.map(({ kind }) => kind)).toEqual(['outline', 'shadow']);

  // The server's own picture takes the place of the drawing once the hand rests.
  await expect(page.locator('.stage')).toHaveAttribute('data-rest', 'true');

  await mark.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('heading', { name: 'Drop photos or a folder' })).toBeVisible();
  await page.getByRole('link', { name: 'Marks' }).click();
  await expect(page.getByRole('article', { name: 'Ines Marlow, over a line' })).toContainText(
    'Layers, changed at any time',
  );
  await exportAndFindYears(page, app.address, app.pictures, id);
});

const YEARS: Readonly<Record<string, number>> = { 'a.jpg': 1994, 'b.jpg': 2026, 'c.jpg': 2008 };

/** Places the mark on photos of three years and compares each output with a render. */
async function exportAndFindYears(page: Page, address: string, pictures: string, markId: number) {
  const photos = join(pictures, 'photos');
  const out = join(pictures, 'out');
  mkdirSync(photos);
  mkdirSync(out);
  const size = { width: 1_200, height: 800 };
  await writeCameraJpeg(join(photos, 'a.jpg'), { ...size, taken: '1994:04:11 06:11:02' });
  await writeCameraJpeg(join(photos, 'b.jpg'), { ...size, taken: '2026:04:11 06:11:02' });
  await writeJpeg(join(photos, 'c.jpg'), size);
  utimesSync(join(photos, 'c.jpg'), new Date(), new Date('2008-05-05T12:00:00'));

  const post = async <T>(path: string, data: object): Promise<T> =>
    (await page.request.post(`${address}/api${path}`, { data })).json() as Promise<T>;
  const rule = { tone: { tone: '#ff00ff' }, opacity: 1, size: { basis: 'width', value: 70 } };
  await post('/presets', { name: 'Middle', markId, rule: { ...rule, anchor: 'centre' } });
  const { id: deliveryId } = await post<{ id: number }>('/deliveries', {
    ...{ name: 'Gallery', presetId: 1, folder: out },
    rule: { resize: null, file: { type: 'png' } },
  });
  const { id: batchId } = await post<{ id: number }>('/batches', {
    ...{ name: 'Years', presetId: 1, deliveryIds: [deliveryId] },
  });
  await post(`/batches/${batchId}/folders`, { path: photos });

  await page.goto(`${address}/batches/${batchId}`);
  const wall = page.getByTestId('wall');
  await expect(wall.getByTestId('mark')).toHaveCount(3);
  // The page shows each photo with its own year.
  await expect(wall.locator('img[data-testid=mark][src*="words=%5B%221994%22%5D"]')).toHaveCount(1);
  await expect(wall.locator('img[data-testid=mark][src*="words=%5B%222008%22%5D"]')).toHaveCount(1);
  await page.getByRole('button', { name: /^Export/ }).click();
  await expect(page.getByText('1 photo has no capture date')).toBeVisible();
  await page.getByRole('button', { name: 'Start: 3 files' }).click();
  await page.waitForURL(/\/runs\/\d+/);
  // The note stands there as soon as its own photo is written, maybe before the others are.
  await expect(page.getByText('3 files written.')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText('the year of its file')).toBeVisible();

  const runId = Number(/runs\/(\d+)/.exec(page.url())?.[1]);
  const { items } = await get<RunDetailView>(page, address, `/runs/${runId}`);
  const mark = (await get<MarkView[]>(page, address, '/marks')).find(({ id }) => id === markId);
  if (!mark) throw new Error('no mark');
  for (const item of items) {
    const year = YEARS[item.sourceName];
    const box = item.placement?.copies[0].box;
    if (!box || !item.outputName) throw new Error(`${item.sourceName} has no output`);
    const output = await sharp(join(out, item.outputName))
      .extract({
        ...{ left: Math.round(box.x), top: Math.round(box.y) },
        ...{ width: Math.round(box.width), height: Math.round(box.height) },
      })
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    const apart = async (shown: number): Promise<number> => {
      const query = `version=${mark.version}&tone=original&width=1536&words=${encodeURIComponent(JSON.stringify([String(shown)]))}`;
      const picture = await page.request.get(`${address}/api/marks/${markId}/raster?${query}`);
      const wish = { version: mark.version, words: [[String(shown)]] };
      const shapes = await page.request.post(`${address}/api/marks/${markId}/shapes`, {
        data: wish,
      });
      const [{ bleed }] = (await shapes.json()) as MarkShapeView[];
      return differentInk(output, await picture.body(), bleed);
    };
    const right = await apart(year);
    const wrong = await apart(year === 2026 ? 1994 : 2026);
    expect(right, `${item.sourceName} says ${year}`).toBeLessThan(0.45);
    expect(wrong, `${item.sourceName} says nothing else`).toBeGreaterThan(right * 1.6);
  }
}

/** How many pixels of the year are magenta ink in the output and none in the render, or the reverse. */
async function differentInk(
  output: { data: Buffer; info: { width: number; height: number } },
  picture: Buffer,
  bleed: MarkShapeView['bleed'],
): Promise<number> {
  const { width, height } = output.info;
  const whole = await sharp(picture).metadata();
  const inner = {
    width: Math.round(whole.width / (1 + 2 * bleed.x)),
    height: Math.round(whole.height / (1 + 2 * bleed.y)),
  };
  const left = Math.round((whole.width - inner.width) / 2);
  const top = Math.round((whole.height - inner.height) / 2);
  const wanted = await sharp(picture)
    .extract({ left, top, ...inner })
    .resize(width, height, { fit: 'fill' })
    .raw()
    .toBuffer();
  let different = 0;
  let ink = 0;
  for (let at = 0; at < width * height; at++) {
    const [r, g, b] = output.data.subarray(at * 3, at * 3 + 3);
    // The year stands in the lowest part of the mark; the name above is the same in every year.
    if (at < width * height * 0.76) continue;
    const isInk = r - g > 110 && b - g > 110;
    // The outline and the shadow contrast with the ink, so only the ink itself is black here.
    const isWanted = wanted[at * 4 + 3] > 128 && wanted[at * 4] < 100;
    if (isWanted) ink++;
    if (isInk !== isWanted) different++;
  }
  return different / ink;
}

test('layers are moved, sized and turned by hand, with guides and exact numbers', async ({
  app,
  page,
}) => {
  const words = (id: string, text: string, y: number) => ({
    ...{ kind: 'lettering', id, name: text, place: { x: 0, y } },
    lettering: { text, font: { family: 'montserrat', weight: 500, italic: false } },
  });
  const design = { layers: [words('a', 'Quillon', 0), words('b', 'Bay', 200)], finishes: [] };
  const made = await page.request.post(`${app.address}/api/designs`, {
    data: { name: 'By hand', design },
  });
  const { id } = (await made.json()) as MarkView;
  await page.goto(`${app.address}/marks/${id}/design`);
  const hold = page.locator('.hold[aria-label="Bay"]');
  const number = async (label: string): Promise<number> =>
    Number(await page.getByLabel(label, { exact: true }).inputValue());

  const pull = async (target: ReturnType<Page['locator']>, x: number, y: number) => {
    const box = await target.boundingBox();
    if (!box) throw new Error('nothing to pull');
    const from = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move(from.x + x / 2, from.y + y / 2);
    await page.mouse.move(from.x + x, from.y + y, { steps: 4 });
    return () => page.mouse.up();
  };

  // A press chooses and moves at once; near the other's middle it is caught, and a line says so.
  let letGo = await pull(hold, 180, 60);
  await letGo();
  const away = await number('Middle, across');
  expect(away).toBeGreaterThan(60);
  await page.keyboard.press('Control+z');
  letGo = await pull(hold, -4, 40);
  await expect(page.locator('.guide.upright').first()).toBeVisible();
  await letGo();
  await expect(page.locator('.guide')).toHaveCount(0);
  expect(Math.abs(await number('Middle, across'))).toBeLessThan(2.5);

  // A corner keeps proportions, and the opposite corner where it is.
  const before = [await number('Width'), await number('Height')];
  letGo = await pull(page.locator('[data-grip="1,1"]'), 60, 10);
  await letGo();
  const after = [await number('Width'), await number('Height')];
  expect(after[0]).toBeGreaterThan(before[0] * 1.1);
  expect(after[0] / after[1]).toBeCloseTo(before[0] / before[1], 1);

  letGo = await pull(page.locator('[data-grip=turn]'), 70, 40);
  await letGo();
  expect(await number('Turn')).toBeGreaterThan(20);
  await page.getByLabel('Turn', { exact: true }).fill('-30');
  expect(await number('Turn')).toBe(-30);

  // Arrow keys nudge; both layers align, are grouped and move as one.
  await page.getByLabel('Turn', { exact: true }).blur();
  const there = await number('Middle, across');
  await page.keyboard.press('Shift+ArrowRight');
  expect(await number('Middle, across')).toBeCloseTo(there + 10, 0);
  await stack(page)
    .getByRole('button', { name: 'Quillon', exact: true })
    .click({
      modifiers: ['Control'],
    });
  await expect(page.getByText('2 layers', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Centres in one column' }).click();
  await page.getByRole('button', { name: 'Group' }).click();
  await page.keyboard.press('Escape');
  await hold.click();
  await expect(page.getByText('2 layers', { exact: true })).toBeVisible();

  // Locked layers stay where they are; hidden ones are not in the mark.
  await page.getByRole('button', { name: 'Ungroup' }).click();
  await page.getByRole('button', { name: 'Lock Bay' }).click();
  await expect(hold).toHaveCount(0);
  await page.getByRole('button', { name: 'Hide Quillon' }).click();
  const state = page.getByRole('region', { name: 'Mark', exact: true }).getByRole('status');
  await expect(state).toHaveText('saved');
  const { design: saved } = await get<DesignView>(page, app.address, `/marks/${id}/design`);
  expect(saved.layers.map(({ locked, hidden }) => [locked, hidden])).toEqual([
    [false, true],
    [true, false],
  ]);
});

test('a mark in use says which presets change, and nothing is lost when saving fails', async ({
  app,
  page,
}) => {
  const design = {
    layers: [
      {
        ...{ kind: 'lettering', id: 'a', name: 'Ines' },
        lettering: { text: 'Ines', font: { family: 'allura', weight: 400, italic: false } },
      },
    ],
    finishes: [],
  };
  const made = await page.request.post(`${app.address}/api/designs`, {
    data: { name: 'In use', design },
  });
  const { id } = (await made.json()) as MarkView;
  await page.request.post(`${app.address}/api/presets`, {
    data: { name: 'Low right', markId: id, rule: {} },
  });
  await page.goto(`${app.address}/marks/${id}/design`);
  const mark = page.getByRole('region', { name: 'Mark', exact: true });
  await expect(mark).toContainText('Changes along with it: Low right');

  await page.route('**/api/marks/*/design', (route) =>
    route.request().method() === 'PUT' ? route.abort() : route.fallback(),
  );
  await page.getByRole('textbox', { name: 'Words' }).fill('Ines Marlow');
  await expect(mark.getByRole('alert')).toContainText('The server does not answer');
  await expect(page.getByRole('textbox', { name: 'Words' })).toHaveValue('Ines Marlow');
  await page.unroute('**/api/marks/*/design');
  // By itself, with no other change.
  await expect(mark.getByRole('status')).toHaveText('saved');
  const kept = await page.request.get(`${app.address}/api/marks/${id}/design`);
  expect(JSON.stringify(await kept.json())).toContain('Ines Marlow');

  // Words without a letter in this font are named.
  await page.getByRole('textbox', { name: 'Words' }).fill('Ines 山');
  await expect(page.getByText('This font has no 山')).toBeVisible();
});
