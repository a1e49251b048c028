import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import type { BatchView, RunDetailView } from '#core/contract/http';
import { designSchema } from '#core/contract/design';
import { MARK_SVG } from '../helpers/makePhoto.ts';
import { expect, test, type App } from './app.ts';

/** Marks that follow the photo: quiet, of their own on upright ones, several, with words of the photo. */

const GREYS = { 'a dark': 15, 'b middle': 165, 'c white': 255 } as const;

async function openGreys(app: App, page: Page): Promise<void> {
  const folder = join(app.pictures, 'Greys');
  mkdirSync(folder);
  for (const [name, grey] of Object.entries(GREYS)) {
    const background = { r: grey, g: grey, b: grey };
    const create = { width: 900, height: 600, channels: 3, background } as const;
    await sharp({ create })
      .png()
      .toFile(join(folder, `${name}.png`));
  }
  const create = { width: 600, height: 900, channels: 3, background: '#0c0c0c' } as const;
  await sharp({ create }).png().toFile(join(folder, 'd tall.png'));
  const post = (path: string, data: object) =>
    page.request.post(`${app.address}/api${path}`, { data });
  await page.request.post(`${app.address}/api/marks?name=m.svg`, {
    data: Buffer.from(MARK_SVG),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  const light = { tone: { rule: 'fixed', tone: 'light' }, opacity: 0.9 };
  await post('/presets', { name: 'Low right', markId: 1, rule: light });
  await post('/presets', { name: 'High left', markId: 1, rule: { ...light, anchor: 'top-left' } });
  const rule = { resize: null, file: { type: 'png' }, name_pattern: '{name}' };
  await post('/deliveries', { name: 'Gallery', presetId: null, rule, folder: app.pictures });
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Read a folder in place' }).click();
  await page.getByRole('button', { name: app.pictures }).click();
  await page.getByRole('button', { name: 'Greys' }).click();
  await page.getByRole('button', { name: 'Read this folder' }).click();
  await expect(page.getByTestId('wall').locator('[data-photo]')).toHaveCount(4);
  await page.getByLabel('Preset').selectOption({ label: 'Low right' });
}

const tile = (page: Page, name: string) =>
  page.getByTestId('wall').getByRole('group', { name: new RegExp(`^${name}`) });
const opacityOf = (page: Page, name: string): Promise<number> =>
  tile(page, name)
    .getByTestId('mark')
    .first()
    .evaluate((mark) => Number(getComputedStyle(mark).opacity));

async function exported(page: Page, app: App): Promise<RunDetailView> {
  await page.getByRole('button', { name: /^Export/ }).click();
  await page.getByRole('button', { name: /^Start/ }).click();
  await expect(page.getByText(/4 written|4 of 4/).first()).toBeVisible();
  const [{ id }] = await (await page.request.get(`${app.address}/api/runs`)).json();
  return (await page.request.get(`${app.address}/api/runs/${id}`)).json();
}

test('a mark is as quiet as it reads on each photo, as its card and the chart say, and goes out so', async ({
  app,
  page,
}) => {
  await openGreys(app, page);
  await page.getByLabel('as quiet as it reads').check();
  await expect.poll(() => opacityOf(page, 'a dark')).toBeLessThan(0.5);
  expect(await opacityOf(page, 'b middle')).toBeGreaterThan(await opacityOf(page, 'a dark'));
  expect(await opacityOf(page, 'c white')).toBeCloseTo(0.9, 5);

  await page.getByRole('button', { name: /^How much of the mark/ }).click();
  await expect(page.getByRole('heading', { name: 'How strong the mark is' })).toBeVisible();
  const strengths = page.getByLabel(/^On how many photos the mark is how strong/);
  const before = await strengths.getAttribute('aria-label');
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.getByLabel('At most').fill('95');
  await page.getByRole('button', { name: /^How much of the mark/ }).click();
  await expect(strengths).not.toHaveAttribute('aria-label', before ?? '');
  await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);

  // The card names the value; what it names is what goes out.
  await tile(page, 'b middle').locator('[data-class]').click();
  const card = page.getByTestId('reading').first();
  // Not what was estimated while it moved.
  await expect(card).toContainText('measured');
  await expect(card).toContainText(/\d+ % strong: as quiet as it reads here/);
  const [, named] = /(\d+) % strong/.exec((await card.textContent()) ?? '') ?? [];
  await page.keyboard.press('Escape');
  const { items } = await exported(page, app);
  const item = items.find(({ sourceName }) => sourceName.startsWith('b middle'));
  expect(Math.round((item?.placement?.opacity ?? 0) * 100)).toBe(Number(named));
});

test('upright photos have a place of their own, and the same again', async ({ app, page }) => {
  await openGreys(app, page);
  const top = async (name: string): Promise<number> => {
    const box = await tile(page, name).getByTestId('mark').boundingBox();
    const photo = await tile(page, name).boundingBox();
    return ((box?.y ?? 0) - (photo?.y ?? 0)) / (photo?.height ?? 1);
  };
  await page.getByText('upright 1', { exact: true }).click();
  await page.keyboard.press('7');
  await expect.poll(() => top('d tall')).toBeLessThan(0.2);
  expect(await top('a dark')).toBeGreaterThan(0.6);
  await page.getByRole('button', { name: 'Same as all' }).click();
  await expect.poll(() => top('d tall')).toBeGreaterThan(0.6);
});

test('a second mark is laid, moved on one photo, kept with the batch and exported', async ({
  app,
  page,
}) => {
  await openGreys(app, page);
  await page.getByRole('button', { name: 'Lay another mark over it' }).click();
  await page.getByRole('menuitem', { name: 'High left' }).click();
  await expect(tile(page, 'a dark').getByTestId('mark')).toHaveCount(2);
  const row = page.getByRole('region', { name: 'Marks on each photo' });
  await row.getByRole('button', { name: 'High left', exact: true }).click();
  await expect(page.getByLabel('Preset')).toHaveValue('2');
  const names = row.getByRole('listitem');
  await row.getByRole('button', { name: 'Lay High left lower' }).click();
  await expect(names.first()).toContainText('High left');
  await expect(row.getByRole('button', { name: 'Lay High left lower' })).toBeDisabled();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(names.last()).toContainText('High left');

  // On one photo it goes elsewhere: the first mark and all other photos stay.
  await tile(page, 'a dark').hover();
  await tile(page, 'a dark').getByRole('checkbox').check();
  await page.keyboard.press('9');
  await tile(page, 'a dark').getByRole('checkbox').uncheck();
  const batches: BatchView[] = await (await page.request.get(`${app.address}/api/batches`)).json();
  await expect
    .poll(async () => {
      const open = await page.request.get(`${app.address}/api/batches/${batches[0].id}`);
      return ((await open.json()) as { adjustments: unknown[] }).adjustments;
    })
    .toEqual([
      { photoId: expect.any(Number), adjustment: { over: { 2: expect.objectContaining({}) } } },
    ]);

  await page.reload();
  await expect(tile(page, 'a dark').getByTestId('mark')).toHaveCount(2);
  const { items } = await exported(page, app);
  expect(items.every(({ placement }) => placement?.anchor === 'bottom-right')).toBe(true);
  const green = async (name: string, x: number, y: number): Promise<number> => {
    const { data, info } = await sharp(join(app.pictures, `${name}.png`))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    let brightest = 0;
    const [left, top] = [Math.round(info.width * x), Math.round(info.height * y)];
    for (let row = top; row < top + info.height / 4; row++) {
      for (let column = left; column < left + info.width / 4; column++) {
        brightest = Math.max(brightest, data[(row * info.width + column) * 3 + 1] ?? 0);
      }
    }
    return brightest;
  };
  expect(await green('a dark', 0.75, 0)).toBeGreaterThan(200);
  expect(await green('a dark', 0, 0)).toBeLessThan(40);
  expect(await green('a dark', 0.75, 0.75)).toBeGreaterThan(200);
  expect(await green('d tall', 0, 0)).toBeGreaterThan(200);
});

/** A mark of lettering, with a preset of its name. */
async function addLettering(app: App, page: Page, name: string, text: string, anchor: string) {
  const lettering = { text, font: { family: 'montserrat', weight: 700 } };
  const design = designSchema.parse({
    layers: [{ id: 'w', kind: 'lettering', name, lettering }],
  });
  const post = (path: string, data: object) =>
    page.request.post(`${app.address}/api${path}`, { data });
  const mark = await (await post('/designs', { name, design })).json();
  const rule = { tone: { rule: 'fixed', tone: 'light' }, opacity: 1, anchor };
  await post('/presets', { name, markId: mark.id, rule });
  return mark;
}

test('lettering takes numbers and names of each photo, on the wall and in the files', async ({
  app,
  page,
}) => {
  await openGreys(app, page);
  const mark = await addLettering(app, page, 'Numbers', '{number:3} {name}', 'top-left');
  await page.reload();
  await page.getByLabel('Preset').selectOption({ label: 'Numbers' });
  const words = (name: string) =>
    tile(page, name)
      .getByTestId('mark')
      .getAttribute('src')
      .then((src) => new URL(src ?? '', app.address).searchParams.get('words'));
  await expect.poll(() => words('b middle')).toBe('["b middle","2"]');
  const { items } = await exported(page, app);
  for (const [index, { placement, sourceName }] of items.entries()) {
    const named = [sourceName.replace('.png', ''), String(index + 1)];
    const shapes = await page.request.post(`${app.address}/api/marks/${mark.id}/shapes`, {
      data: { version: mark.version, words: [named] },
    });
    const [{ ink }] = await shapes.json();
    const size = placement?.copies[0]?.size ?? { width: 0, height: 1 };
    expect(size.width / size.height).toBeCloseTo(ink.width / ink.height, 4);
  }
});

test('where a mark says nothing, the photo reads as the other does, and says so', async ({
  app,
  page,
}) => {
  await openGreys(app, page);
  await addLettering(app, page, 'Captions', '{caption}', 'top-left');
  await page.reload();
  await page.getByRole('button', { name: 'Lay another mark over it' }).click();
  await page.getByRole('menuitem', { name: 'Captions' }).click();
  await expect(page.getByRole('button', { name: /^4 without caption/ })).toBeVisible();
  await expect(tile(page, 'a dark').locator('[data-class]')).toHaveAttribute('data-class', 'clear');
  await tile(page, 'a dark').locator('[data-class]').click();
  const card = page.getByTestId('reading').first();
  await expect(card).toContainText('Captions: says nothing here.');
  await expect(card).toContainText('It has nothing for {caption}');
});
