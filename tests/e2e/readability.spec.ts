import { exampleWords } from '#core/lettering/photoWords';
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { planRasters } from '#core/compose/rasterPlan';
import type { RunDetailView } from '#core/contract/http';
import { measureReadability } from '#core/readability/measure';
import { Imaging } from '#server/imaging/pool/imaging';
import { Rasteriser } from '#server/imaging/raster/rasteriser';
import sharp from 'sharp';
import { builtModule } from '../helpers/built.ts';
import { MARK_SVG } from '../helpers/makePhoto.ts';
import { expect, expectAccessible, test, type App } from './app.ts';

/** A batch with dark, bright and busy corners: seen, filtered, adjusted, looked at, exported. */

const SIDE = 800;
type Corner = 'dark' | 'bright' | 'busy';
/** Top left, top right, bottom left, bottom right. */
const PHOTOS: Readonly<Record<string, readonly [Corner, Corner, Corner, Corner]>> = {
  'a all dark': ['dark', 'dark', 'dark', 'dark'],
  'b all bright': ['bright', 'bright', 'bright', 'bright'],
  'c busy low right': ['dark', 'dark', 'dark', 'busy'],
  'd bright low right': ['dark', 'bright', 'bright', 'bright'],
};

function cornerPixel(corner: Corner, x: number, y: number): number {
  if (corner === 'dark') return 14;
  if (corner === 'bright') return 242;
  return (Math.floor(x / 7) + Math.floor(y / 7)) % 2 === 0 ? 5 : 250;
}

async function writeCorners(path: string, corners: (typeof PHOTOS)[string]): Promise<void> {
  const data = Buffer.alloc(SIDE * SIDE * 3);
  for (let y = 0; y < SIDE; y++) {
    for (let x = 0; x < SIDE; x++) {
      const corner = corners[(x < SIDE / 2 ? 0 : 1) + (y < SIDE / 2 ? 0 : 2)];
      data.fill(cornerPixel(corner, x, y), (y * SIDE + x) * 3, (y * SIDE + x) * 3 + 3);
    }
  }
  await sharp(data, { raw: { width: SIDE, height: SIDE, channels: 3 } })
    .jpeg({ quality: 95 })
    .toFile(path);
}

const LIGHT = { tone: { rule: 'fixed', tone: 'light' }, opacity: 1 };

async function openCorners(app: App, page: Page, rule: object = LIGHT): Promise<void> {
  const folder = join(app.pictures, 'Corners');
  mkdirSync(folder);
  for (const [name, corners] of Object.entries(PHOTOS)) {
    await writeCorners(join(folder, `${name}.jpg`), corners);
  }
  const post = (path: string, data: object) =>
    page.request.post(`${app.address}/api${path}`, { data });
  await page.request.post(`${app.address}/api/marks?name=m.svg`, {
    data: Buffer.from(MARK_SVG),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  await post('/presets', { name: 'Low right', markId: 1, rule });
  await post('/deliveries', {
    name: 'Gallery',
    presetId: 1,
    rule: { resize: null, file: { type: 'png' } },
    folder: app.pictures,
  });
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Read a folder in place' }).click();
  await page.getByRole('button', { name: app.pictures }).click();
  await page.getByRole('button', { name: 'Corners' }).click();
  await page.getByRole('button', { name: 'Read this folder' }).click();
  await expect(page.getByTestId('wall').locator('[data-photo]')).toHaveCount(4);
}

const tile = (page: Page, name: string) =>
  page.getByTestId('wall').getByRole('group', { name: new RegExp(`^${name}`) });
const sign = (page: Page, name: string) => tile(page, name).locator('[data-class]');

async function expectCounts(page: Page, clear: number, faint: number, lost: number): Promise<void> {
  await expect(page.getByTestId('count-clear')).toContainText(String(clear));
  await expect(page.getByTestId('count-faint')).toContainText(String(faint));
  await expect(page.getByTestId('count-lost')).toContainText(String(lost));
}

async function select(page: Page, ...names: string[]): Promise<void> {
  for (const name of names) {
    await tile(page, name).hover();
    await tile(page, name).getByRole('checkbox').check();
  }
}

test('counts change while the mark is dragged, and the tone flips where it is chosen', async ({
  app,
  page,
}) => {
  await openCorners(app, page);
  await expectCounts(page, 1, 0, 3);
  const mark = tile(page, 'a all dark').getByTestId('mark');
  const box = await mark.boundingBox();
  const photo = await tile(page, 'a all dark').boundingBox();
  if (!box || !photo) throw new Error('nothing to drag');
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(photo.x + 20, photo.y + 14, { steps: 8 });
  // Still in the hand: the estimate answers.
  await expectCounts(page, 3, 0, 1);
  await page.mouse.up();
  await expectCounts(page, 3, 0, 1);
  await expect(sign(page, 'b all bright')).toHaveAttribute('data-class', 'lost');
  await page.getByLabel('whichever reads best').check();
  await expect(sign(page, 'b all bright')).toHaveAttribute('data-class', 'clear');
  await expectCounts(page, 4, 0, 0);
  await sign(page, 'b all bright').hover();
  const figures = page.getByTestId('reading');
  await expect(figures).toContainText('measured');
  await expect(figures).toContainText('Dark: it reads better here than light.');
  await expect(figures).toContainText('of the frame can be cropped free of the mark');
  await expectAccessible(page);
  await figures.getByRole('button', { name: 'Keep this tone' }).click();
  await expect(tile(page, 'b all bright').getByTestId('adjusted')).toBeVisible();
});

test('a lost photo is found, rescued by another place, and its export reads', async ({
  app,
  page,
}) => {
  await openCorners(app, page);
  await expectCounts(page, 1, 0, 3);
  await page.getByTestId('count-lost').click();
  await expect(page.getByTestId('wall').locator('[data-photo]')).toHaveCount(3);
  await select(page, 'c busy');
  await expect(page.getByRole('radio', { name: 'the 1 selected' })).toBeChecked();
  await page.keyboard.press('7');
  // Clear now, it leaves what is lost; the others have stayed where they were.
  await expect(page.getByTestId('wall').locator('[data-photo]')).toHaveCount(2);
  await expectCounts(page, 2, 0, 2);
  await page.getByRole('button', { name: 'Export 1 file' }).click();
  await page.getByRole('button', { name: 'Start: 1 file' }).click();
  await expect(page.getByText('1 file written.')).toBeVisible();

  const run = (await (await page.request.get(`${app.address}/api/runs/1`)).json()) as RunDetailView;
  const [item] = run.items;
  expect(item.placement?.anchor).toBe('top-left');
  expect(await classOfOutput(join(app.pictures, item.outputName ?? ''), item)).toBe('clear');
});

/** Measured on the written file itself, by the definition. */
async function classOfOutput(path: string, item: RunDetailView['items'][number]) {
  const { data, info } = await sharp(path)
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const photo = {
    data: new Uint8ClampedArray(data),
    width: info.width,
    height: info.height,
    channels: 3 as const,
  };
  const imaging = new Imaging(builtModule('imagingProcess'));
  try {
    const imported = await imaging.importArtwork(Buffer.from(MARK_SVG));
    if (!imported.ok || !item.placement) throw new Error('nothing to measure');
    const [copy] = item.placement.copies;
    const [{ spec, left, top }] = planRasters(photo, [copy]);
    const core = await new Rasteriser(imaging.drawer).core(
      'm',
      imported.value.artwork,
      spec,
      exampleWords(2_026),
    );
    if (!core.ok) throw new Error(core.reason);
    return measureReadability(photo, core.value, left, top, copy.box)?.class;
  } finally {
    imaging.close();
  }
}

test('two photos are adjusted together, and one is taken back', async ({ app, page }) => {
  await openCorners(app, page);
  await select(page, 'a all dark', 'c busy');
  await page.keyboard.press('5');
  await page.keyboard.press('o');
  await expect(page.getByTestId('adjusted')).toHaveCount(2);
  await expect(page.getByLabel('Opacity, exact')).toHaveValue('85');
  await expect(page.getByRole('button', { name: '2 adjusted' })).toBeEnabled();
  await expectAccessible(page);
  await page.getByTestId('wall').locator('[data-photo]').first().hover();
  await tile(page, 'c busy').getByRole('checkbox').uncheck();
  await page.getByRole('button', { name: 'Take back: opacity' }).click();
  await expect(page.getByLabel('Opacity, exact')).toHaveValue('100');
  await page.getByRole('button', { name: 'Take all back' }).click();
  await expect(page.getByTestId('adjusted')).toHaveCount(1);
  // What the one still has can be given to the other, and taken back with one undo.
  // Changes closer together than a moment are one step.
  await page.waitForTimeout(500);
  await page.getByRole('button', { name: /^Copy what c busy/ }).click();
  await expect(page.getByTestId('adjusted')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('adjusted')).toHaveCount(1);
  // The preset moves on; what was adjusted stays.
  await page.getByRole('radio', { name: 'all 4' }).click();
  await page.keyboard.press('9');
  await page.waitForTimeout(600);
  await page.reload();
  await expect(page.getByTestId('adjusted')).toHaveCount(1);
  await tile(page, 'c busy').click();
  await expect(page.getByRole('button', { name: 'Take back: place' })).toBeVisible();
  await page.keyboard.press('x');
  await expect(page.getByText('left out', { exact: true }).first()).toBeVisible();
  await page.getByRole('button', { name: '1 left out' }).click();
  await expect(page.getByTestId('wall').locator('[data-photo]')).toHaveCount(1);
});

test('other places and a halo keep marks clear, and the strip pins a photo', async ({
  app,
  page,
}) => {
  await openCorners(app, page);
  await page.getByRole('button', { name: 'if unclear: leave it' }).click();
  await page.getByRole('button', { name: 'high left' }).click();
  await expect(sign(page, 'd bright')).toHaveAttribute('data-class', 'clear');
  await expectCounts(page, 3, 0, 1);
  await page.getByRole('radio', { name: 'halo' }).click();
  await expectCounts(page, 4, 0, 0);
  await expect(tile(page, 'b all bright').getByTestId('rescue')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Done' }).click();
  await sign(page, 'd bright').hover();
  await expect(page.getByTestId('reading')).toContainText('Moved high left');
  const strip = page.getByTestId('hard-strip');
  await expect(strip.locator('[data-hard]')).toHaveCount(4);
  await strip.locator('[data-hard=widest]').hover();
  await strip
    .getByRole('button', { name: /Keep this photo here|Put .* here instead/ })
    .first()
    .click();
  await expect(strip.getByRole('button', { name: /^Pinned/ })).toHaveCount(1);
});

test('a closer look shows true pixels, wipes, stamps and takes a colour', async ({ app, page }) => {
  await openCorners(app, page);
  await tile(page, 'd bright').click();
  await page.keyboard.press('Enter');
  const look = page.getByTestId('closer-look');
  await expect(look.getByTestId('distance').first()).toHaveText('24 px');
  await expectAccessible(page);
  await page.keyboard.press('z');
  const pixels = look.getByTestId('region').locator('img.pixels');
  await expect(pixels).toBeVisible();
  const width = await pixels.evaluate((image: HTMLImageElement) => [
    image.naturalWidth,
    Math.round(image.getBoundingClientRect().width),
  ]);
  expect(width[0]).toBe(width[1]);
  await page.keyboard.press('w');
  await expect(look.getByRole('slider', { name: 'Wipe between before and after' })).toBeVisible();
  await page.keyboard.press('w');
  await page.keyboard.press('z');
  await page.keyboard.press('z');
  await look.getByRole('button', { name: 'stamp', exact: true }).click();
  const area = await look.getByTestId('tool-area').boundingBox();
  if (!area) throw new Error('no photo');
  await page.mouse.click(area.x + area.width * 0.25, area.y + area.height * 0.25);
  await page.keyboard.press('Escape');
  await expect(look.getByTestId('stamp')).toBeVisible();
  await page.getByLabel('Size of the stamp, %').fill('150');
  await page.getByLabel('Size of the stamp, %').press('Enter');
  await look.getByRole('button', { name: /^Angle of stamp 1/ }).press('ArrowRight');
  await expect(page.getByLabel('Angle of the stamp, degrees')).toHaveValue('1');
  await look.getByRole('button', { name: 'tone', exact: true }).click();
  await page.mouse.click(area.x + area.width * 0.75, area.y + area.height * 0.75);
  await expect(page.getByRole('button', { name: 'Take back: tone' })).toBeVisible();
  await look.getByRole('button', { name: /^Size of the mark/ }).press('ArrowUp');
  await expect(page.getByRole('button', { name: 'Take back: size' })).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Photo before' }).click();
  await expect(look.getByTestId('stamp')).toHaveCount(0);
});

test('presets come in as files, a taken name is asked about, and they keep their order', async ({
  app,
  page,
}) => {
  await openCorners(app, page);
  const file = join(app.pictures, 'high.preset.json');
  const preset = {
    format: 'light-crest/preset',
    version: 1,
    name: 'Low right',
    anchor: 'top-left',
  };
  writeFileSync(file, JSON.stringify(preset));
  writeFileSync(join(app.pictures, 'wrong.json'), JSON.stringify({ ...preset, anchr: 'top' }));
  await page.goto(`${app.address}/presets`);
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring in files' }).click();
  await (await chooser).setFiles([join(app.pictures, 'wrong.json'), file]);
  await expect(page.getByText(/wrong.json: unknown key "anchr"/)).toBeVisible();
  await expect(page.getByText('That name is taken')).toBeVisible();
  await page.getByRole('button', { name: 'Keep both' }).click();
  const cards = page.locator('[data-preset]');
  await expect(cards).toHaveCount(2);
  await page.getByRole('button', { name: 'Low right 2 is a favourite' }).click();
  await page.getByRole('button', { name: 'Place of Low right 2' }).press('ArrowLeft');
  await expect(cards.first()).toHaveAttribute('data-preset', 'Low right 2');
  await page.reload();
  await expect(cards.first()).toHaveAttribute('data-preset', 'Low right 2');
  await expectAccessible(page);
  await page.getByRole('radio', { name: 'favourites' }).click();
  await expect(cards).toHaveCount(1);
  await page.getByRole('link', { name: 'Low right 2' }).click();
  await expect(page.locator('[data-hard]')).toHaveCount(4);
  await page.keyboard.press('5');
  await page.getByRole('button', { name: 'Save as new' }).last().click();
  const naming = page.getByRole('dialog', { name: 'Save as a new preset' });
  await naming.getByLabel('Name').fill('Low right');
  await naming.getByRole('button', { name: 'Save' }).click();
  await page.getByRole('button', { name: 'Replace what it holds' }).click();
  await expect(page.getByRole('heading', { name: 'Low right', exact: true })).toBeVisible();
  await expect(page.getByText('centred', { exact: true })).toBeVisible();
  expect(readdirSync(app.pictures)).toContain('high.preset.json');
});
