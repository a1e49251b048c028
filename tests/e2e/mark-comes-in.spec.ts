import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import type { MarkView, RunDetailView } from '#core/contract/http';
import { boxedLogo, phonePhoto } from '../helpers/phonePhoto.ts';
import { shadowPhoto } from '../helpers/shadowScans.ts';
import { expect, expectAccessible, test } from './app.ts';

/** How a mark comes in: from paper, from a pen, from a file that has a box round it. */

const SLATE = { r: 40, g: 60, b: 80 };

async function marksOf(page: Page, address: string): Promise<MarkView[]> {
  return (await page.request.get(`${address}/api/marks`)).json() as Promise<MarkView[]>;
}

/** The first mark leads on to the photos; here the mark itself is looked at. */
async function toMarks(page: Page): Promise<void> {
  await expect(page.getByRole('heading', { name: 'Drop photos or a folder' })).toBeVisible();
  await page.getByRole('link', { name: 'Marks', exact: true }).click();
}

test('a phone photo of paper becomes a mark, a preset and an exported photo', async ({
  app,
  page,
}) => {
  const { jpeg, inkAspect } = await phonePhoto();
  await page.goto(`${app.address}/marks`);
  await page.getByRole('link', { name: 'From paper' }).first().click();
  await expect(page.getByText('Sign on white paper')).toBeVisible();
  await expectAccessible(page);
  await page
    .getByLabel('Scan: files')
    .setInputFiles({ name: 'phone.jpg', mimeType: 'image/jpeg', buffer: jpeg });

  await expect(page.getByText('px of ink')).toBeVisible();
  // It lies sideways: taller than wide until it is turned.
  await expect(page.getByText('The writing runs up or down.')).toBeVisible();
  await page.getByRole('button', { name: 'Turn it' }).click();
  const aspect = async (): Promise<number> => {
    const text = await page.getByText('px of ink').textContent();
    const [width, height] = (text?.match(/\d+/g) ?? []).map(Number);
    return width / height;
  };
  await expect.poll(aspect).toBeCloseTo(inkAspect, 1);
  await expect(page.getByText(/Kept as outlines/)).toBeVisible();
  const size = await page.getByText('px of ink').textContent();
  await expectAccessible(page);

  // Each control does something, and all of it can be taken back.
  await page.getByLabel('Line weight, exact').fill('2');
  await page.getByLabel('Line weight, exact').press('Enter');
  await expect(page.getByText('px of ink')).not.toHaveText(size ?? '');
  await page.getByRole('button', { name: 'Undo', exact: true }).click();
  await expect(page.getByText('px of ink')).toHaveText(size ?? '');
  const level = page.getByRole('slider', { name: 'Ink level' }).first();
  const before = await level.getAttribute('aria-valuenow');
  await level.press('Shift+ArrowUp');
  await expect(level).not.toHaveAttribute('aria-valuenow', before ?? '');
  await page.getByRole('button', { name: 'Find again' }).first().click();
  await expect(level).toHaveAttribute('aria-valuenow', before ?? '');
  for (const ground of ['Dark', 'Photo', 'In grey', 'Over the paper']) {
    await page.getByRole('radio', { name: ground, exact: true }).click();
  }
  await page.getByLabel('Show removed').check();

  await page.getByLabel('Name of the mark').fill('Signed on paper');
  await page.getByRole('button', { name: 'Keep as a mark' }).click();
  await toMarks(page);
  const card = page.getByRole('article', { name: 'Signed on paper' });
  await expect(card).toContainText('Outlines, sharp at any size');
  await card.getByRole('button', { name: /^More/ }).click();
  await expect(card.getByRole('menuitem', { name: 'Lift again' })).toBeVisible();
  await page.keyboard.press('Escape');

  const [mark] = await marksOf(page, app.address);
  const post = (path: string, data: object) =>
    page.request.post(`${app.address}/api${path}`, { data });
  const rule = { tone: { tone: 'light' }, opacity: 1, size: { basis: 'width', value: 50 } };
  await post('/presets', {
    name: 'Paper, middle',
    markId: mark.id,
    rule: { ...rule, anchor: 'centre' },
  });
  await post('/deliveries', {
    name: 'Gallery',
    presetId: 1,
    rule: { resize: null, file: { type: 'png' } },
  });
  await page.goto(app.address);
  const flat = await sharp({
    create: { width: 1_200, height: 800, channels: 3, background: SLATE },
  })
    .png()
    .toBuffer();
  await page
    .getByLabel('Photos: files')
    .setInputFiles({ name: 'slate.png', mimeType: 'image/png', buffer: flat });
  await expect(page.getByTestId('wall').getByRole('group')).toHaveCount(1);
  await page.keyboard.press('g');
  await page.getByRole('button', { name: 'Start: 1 file' }).click();
  await expect(page.getByText('1 file written.')).toBeVisible();

  const { run, items } = (await (
    await page.request.get(`${app.address}/api/runs/1`)
  ).json()) as RunDetailView;
  const { data, info } = await sharp(join(run.deliveries[0].folder, items[0].outputName ?? ''))
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  let [left, right, top, bottom, white] = [info.width, 0, info.height, 0, 0];
  for (let y = 0; y < info.height; y++) {
    for (let x = 0; x < info.width; x++) {
      const red = data[(y * info.width + x) * 3];
      if (red < (SLATE.r + 255) / 2) continue;
      [left, right] = [Math.min(left, x), Math.max(right, x + 1)];
      [top, bottom] = [Math.min(top, y), Math.max(bottom, y + 1)];
      if (red > 250) white++;
    }
  }
  expect(Math.abs(right - left - 600)).toBeLessThanOrEqual(3);
  expect((right - left) / (bottom - top)).toBeCloseTo(inkAspect, 1);
  // Strokes of a hand: white ink, but not a filled box.
  const share = white / ((right - left) * (bottom - top));
  expect(share).toBeGreaterThan(0.02);
  expect(share).toBeLessThan(0.5);

  await page.goto(`${app.address}/marks`);
  await page.getByRole('button', { name: /^More/ }).first().click();
  await page.getByRole('menuitem', { name: 'Lift again' }).click();
  await expect(page.getByText(/Kept as outlines/)).toBeVisible();
  await page.getByLabel('Line weight, exact').fill('1');
  await page.getByLabel('Line weight, exact').press('Enter');
  await page.getByRole('button', { name: 'Keep changes' }).click();
  await expect(page.getByRole('article', { name: 'Signed on paper' })).toBeVisible();
  const [changed] = await marksOf(page, app.address);
  expect(changed).toMatchObject({ id: mark.id, version: 2, usedBy: ['Paper, middle'] });
});

test('a phone photo with a hard shadow becomes a whole signature; turned and kept in one breath', async ({
  app,
  page,
}) => {
  const { jpeg, scan } = await shadowPhoto({
    ...{ edgePx: 24, left: 0.5, shadows: 1, isOnTable: true },
  });
  const { data, width, height } = scan.truth;
  let [left, right, top, bottom] = [width, 0, height, 0];
  data.forEach((value, at) => {
    if (value < 128) return;
    const [x, y] = [at % width, Math.floor(at / width)];
    [left, right] = [Math.min(left, x), Math.max(right, x + 1)];
    [top, bottom] = [Math.min(top, y), Math.max(bottom, y + 1)];
  });
  await page.goto(`${app.address}/marks/from-paper`);
  await page
    .getByLabel('Scan: files')
    .setInputFiles({ name: 'shade.jpg', mimeType: 'image/jpeg', buffer: jpeg });
  await expect(page.getByText(/Kept as outlines/)).toBeVisible();
  const found = (await page.getByText('px of ink').textContent())?.match(/\d+/g)?.map(Number) ?? [];
  expect(Math.abs(found[0] - (right - left))).toBeLessThan(14);
  expect(Math.abs(found[1] - (bottom - top))).toBeLessThan(14);

  // What is taken for paper is seen, and the picture keeps to a window that becomes smaller.
  const foot = page.getByText('Only what lies inside the frame becomes the mark.');
  await page.setViewportSize({ width: 1024, height: 700 });
  await expect(foot).toBeInViewport();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('radio', { name: 'Sheet', exact: true }).click();
  await expect(page.getByRole('img', { name: 'What is not taken for paper' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take all of it for paper' }).click();
  await expect(page.getByRole('img', { name: 'What is not taken for paper' })).toBeHidden();
  await page.getByRole('button', { name: 'Only the sheet that was found' }).click();
  await page.getByRole('radio', { name: 'Crop', exact: true }).click();

  await page.getByLabel('Name of the mark').fill('From the shade');
  await page.getByRole('button', { name: 'Turn right' }).dblclick();
  await page.getByRole('button', { name: 'Turn right' }).click();
  await page.getByRole('button', { name: 'Keep as a mark' }).click();
  await toMarks(page);
  await expect(page.getByRole('article', { name: 'From the shade' })).toBeVisible();
  const [{ ink, scanId }] = await marksOf(page, app.address);
  expect(ink.height / ink.width).toBeCloseTo((right - left) / (bottom - top), 1);

  // Opened again it lies on its side, and is offered turned only where nobody has turned it.
  await page.goto(`${app.address}/marks/from-paper/${scanId}`);
  await expect(page.getByText('px of ink')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Turn it' })).toBeHidden();
});

test('signing with a pen, the better of two tries is kept', async ({ app, page }) => {
  await page.goto(`${app.address}/marks/pen`);
  await expect(page.getByText('Sign here')).toBeVisible();
  await expectAccessible(page);
  const sheet = page.getByRole('img', { name: /Sheet to sign on/ });
  const frame = await sheet.boundingBox();
  if (!frame) throw new Error('There is no sheet.');

  /** Points with the pressure of a stylus, as a browser sends them. */
  const sign = async (from: number, pressure: boolean): Promise<void> => {
    const events = Array.from({ length: 40 }, (_, step) => ({
      type: step === 0 ? 'pointerdown' : 'pointermove',
      x: frame.x + from + step * 7,
      y: frame.y + 200 + 60 * Math.sin(step / 5),
      force: 0.15 + 0.8 * (step / 40),
    }));
    await sheet.evaluate(
      (element, { list, stylus }) => {
        // An untrusted event has no pointer to capture.
        element.setPointerCapture = () => undefined;
        const send = (type: string, x: number, y: number, force: number): void => {
          element.dispatchEvent(
            new PointerEvent(type, {
              ...{ bubbles: true, cancelable: true, pointerId: 5, button: 0 },
              ...{ clientX: x, clientY: y, pressure: force },
              pointerType: stylus ? 'pen' : 'mouse',
            }),
          );
        };
        for (const { type, x, y, force } of list) send(type, x, y, force);
        const { x, y } = list[list.length - 1];
        send('pointerup', x, y, 0);
      },
      { list: events, stylus: pressure },
    );
  };

  await sign(80, false);
  await sign(420, false);
  await page.getByRole('button', { name: 'Undo stroke' }).click();
  await page.getByRole('button', { name: 'Redo' }).click();
  await page.getByRole('button', { name: 'Another try' }).click();
  await sign(100, true);
  await page.getByLabel('Line weight, exact').fill('18');
  await page.getByLabel('Line weight, exact').press('Enter');
  await expect(page.getByRole('button', { name: /^Try/ })).toHaveCount(2);
  await expectAccessible(page);
  // A reload must not lose what was signed.
  await page.reload();
  await expect(page.getByRole('button', { name: /^Try/ })).toHaveCount(2);

  await page.getByLabel('Name of the mark').fill('By stylus');
  await page.getByRole('button', { name: 'Keep this try' }).click();
  await toMarks(page);
  const card = page.getByRole('article', { name: 'By stylus' });
  await expect(card).toContainText('Outlines, sharp at any size');
  const [mark] = await marksOf(page, app.address);
  const origin = await (
    await page.request.get(`${app.address}/api/marks/${mark.id}/origin`)
  ).json();
  expect(origin.drawing.strokes).toHaveLength(1);
  expect(origin.drawing.strokes[0].pressure).toBe(true);
  expect(origin.drawing.pen.weight).toBe(18);

  // The stroke gets wider to its end, as the stylus was pressed.
  const picture = await page.request.get(
    `${app.address}/api/marks/${mark.id}/raster?version=1&tone=dark&width=384`,
  );
  const { data, info } = await sharp(await picture.body())
    .raw()
    .toBuffer({ resolveWithObject: true });
  const inkIn = (fromX: number, toX: number): number => {
    let sum = 0;
    for (let y = 0; y < info.height; y++) {
      for (let x = fromX; x < toX; x++) sum += data[(y * info.width + x) * 4 + 3];
    }
    return sum;
  };
  expect(inkIn(260, 340)).toBeGreaterThan(inkIn(40, 120) * 1.3);
});

test('a JPEG logo loses its white box, and downloads come back as they went', async ({
  app,
  page,
}) => {
  await page.goto(`${app.address}/marks`);
  await page
    .getByLabel('Artwork: files')
    .setInputFiles({ name: 'our-logo.jpg', mimeType: 'image/jpeg', buffer: await boxedLogo() });
  const card = page.getByRole('article', { name: 'Our logo' });
  await expect(card).toContainText('It stands in a white box. Take the box away?');
  await expect(card).toContainText('Small: sharp at 16 % on photos up to 3,000 px');
  await expectAccessible(page);
  await card.getByRole('button', { name: 'Everywhere' }).click();
  await expect(card).toContainText('The box round it was taken away everywhere.');
  await expect(card).toContainText('218 × 218 px');

  await card.getByRole('button', { name: 'Download' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('radio', { name: 'SVG' }).click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    dialog.getByRole('link', { name: 'Download' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('Our logo.svg');
  const path = await download.path();
  await page
    .getByLabel('Artwork: files')
    .setInputFiles({ name: 'again.svg', mimeType: 'image/svg+xml', buffer: readFileSync(path) });
  await expect(page.getByRole('article', { name: 'Our logo' })).toHaveCount(2);

  await card.first().getByRole('button', { name: /^More/ }).click();
  await card.first().getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(page.getByRole('article')).toHaveCount(3);
  await page.getByLabel('Search marks').fill('nothing like it');
  await expect(page.getByText('No mark is called that.')).toBeVisible();
  await page.getByLabel('Search marks').fill('logo 2');
  await expect(page.getByRole('article')).toHaveCount(1);
  await page.getByRole('button', { name: /^More/ }).click();
  await page.getByRole('menuitem', { name: 'Retire' }).click();
  await expect(page.getByRole('heading', { name: 'Retired' })).toBeVisible();
  await page.getByRole('button', { name: /^More/ }).click();
  await page.getByRole('menuitem', { name: 'Bring back' }).click();
  await expect(page.getByRole('heading', { name: 'Retired' })).toHaveCount(0);
});
