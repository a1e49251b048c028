import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import type { RunDetailView } from '#core/contract/http';
import { pixelsOf, writeCameraJpeg, writePaddedMark } from '../helpers/makePhoto.ts';
import { expect, expectAccessible, test, type App } from './app.ts';

/** Dropped photos, a mark, a drag, a preset, an export, and the file against what the page showed. */

const GREY = { r: 118, g: 126, b: 134 };

async function writeFlat(path: string, width: number, height: number): Promise<void> {
  await sharp({ create: { width, height, channels: 3, background: GREY } })
    .png()
    .toFile(path);
}

/** Half way from the grey photo to the pure colours of the mark. */
const COLOURFUL = 128;

/** Edges of the mark: it alone has colour. */
function markBox({ data, width, height }: Awaited<ReturnType<typeof pixelsOf>>) {
  let [left, top, right, bottom] = [width, height, -1, -1];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = (y * width + x) * 3;
      const [r, g, b] = data.subarray(at, at + 3);
      if (Math.max(r, g, b) - Math.min(r, g, b) < COLOURFUL) continue;
      [left, right] = [Math.min(left, x), Math.max(right, x + 1)];
      [top, bottom] = [Math.min(top, y), Math.max(bottom, y + 1)];
    }
  }
  return { left, top, right, bottom };
}

async function prepare(app: App) {
  const paths = {
    flat: join(app.pictures, 'flat grey.png'),
    side: join(app.pictures, 'Möwe 🌊.jpg'),
    mark: join(app.pictures, 'two-colours.png'),
    broken: join(app.pictures, 'broken.jpg'),
  };
  await writeFlat(paths.flat, 1200, 800);
  await writeCameraJpeg(paths.side, { width: 900, height: 600, orientation: 6 });
  await writePaddedMark(paths.mark);
  await sharp({ create: { width: 9, height: 9, channels: 3, background: '#000' } })
    .jpeg()
    .toBuffer()
    .then((bytes) => writeFileSync(paths.broken, bytes.subarray(0, 90)));
  return paths;
}

test('what the page shows is what is written', async ({ app, page }) => {
  const paths = await prepare(app);

  await page.goto(app.address);
  await expect(page.getByText('What have you got?')).toBeVisible();
  await expectAccessible(page);

  await page.getByRole('link', { name: 'Marks' }).click();
  await page.getByLabel('Artwork: files').setInputFiles(paths.mark);
  await expect(page.getByRole('article', { name: 'Two colours' })).toBeVisible();
  await expect(page.getByText('Transparent padding round it was trimmed.')).toBeVisible();
  await page.getByRole('link', { name: 'Deliveries' }).click();
  await page.getByRole('button', { name: 'Make the first' }).click();
  await page.getByRole('button', { name: 'Save' }).click();
  const card = page.getByRole('article', { name: 'Web gallery' });
  await card.getByRole('button', { name: 'JPEG of quality 88' }).click();
  await card.getByText('PNG', { exact: true }).click();
  await card.getByRole('button', { name: '2048 px on the long side' }).click();
  await card.getByLabel('Resize by').selectOption('full size');
  await expect(card.getByRole('button', { name: 'full size' })).toBeVisible();

  await page.getByRole('link', { name: 'Light Crest' }).click();
  await page.getByLabel('Photos: files').setInputFiles([paths.flat, paths.side, paths.broken]);
  await expect(page.getByText('1 file left out')).toBeVisible();
  await expect(page.getByText('broken.jpg is damaged or cut short')).toBeVisible();
  await page.getByRole('button', { name: 'Close' }).click();
  const tiles = page.getByTestId('wall').getByRole('group');
  await expect(tiles).toHaveCount(2);

  // The mark in its own colours, opaque, so that colours can be compared.
  await page.getByLabel('whichever reads best').uncheck();
  await page.getByRole('radio', { name: 'Original colours' }).click();
  await page.getByLabel('Opacity, exact').fill('100');
  await page.getByLabel('Size, exact').fill('22');
  const tile = page.getByRole('group', { name: 'flat grey.png' });
  const mark = tile.getByTestId('mark');
  const from = await mark.boundingBox();
  const frame = await tile.boundingBox();
  if (!from || !frame) throw new Error('The mark is not on the wall.');
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(frame.x + frame.width * 0.3, frame.y + frame.height * 0.3, { steps: 6 });
  await page.mouse.move(frame.x + frame.width * 0.16, frame.y + frame.height * 0.22, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByText('high left')).toBeVisible();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.getByRole('dialog').getByLabel('Name').fill('Colours, high left');
  await page.getByRole('dialog').getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Colours, high left is saved.')).toBeVisible();
  await expect(page.getByText('not saved yet')).toHaveCount(0);
  await page.getByRole('status').getByRole('button', { name: 'Close' }).click();

  await tile.dblclick({ position: { x: frame.width / 2, y: frame.height / 2 } });
  const look = page.getByTestId('closer-look');
  const large = look.getByRole('img', { name: 'flat grey.png' });
  await expect(large).toBeVisible();
  await page.waitForLoadState('networkidle');
  const shown = await large.screenshot();
  await expectAccessible(page);
  await page.keyboard.press('Escape');

  await page.keyboard.press('g');
  await expect(page.getByRole('region', { name: 'Confirm the export' })).toContainText(
    'flat grey-web.png',
  );
  await page.getByRole('button', { name: 'Start: 2 files' }).click();
  await expect(page.getByRole('link', { name: 'Download 2 files as ZIP' })).toBeVisible();
  await expect(page.getByTestId('outputs').getByRole('button')).toHaveCount(2);
  await expectAccessible(page);

  const { run, items } = (await (
    await page.request.get(`${app.address}/api/runs/1`)
  ).json()) as RunDetailView;
  const item = items.find(({ sourceName }) => sourceName === 'flat grey.png');
  const file = readFileSync(join(run.deliveries[0].folder, item?.outputName ?? ''));

  // The exported photo, scaled as the page scaled its own, must show the mark in the same place.
  const page1 = await pixelsOf(shown);
  const written = await pixelsOf(
    await sharp(file).resize(page1.width, page1.height, { fit: 'fill' }).png().toBuffer(),
  );
  const onPage = markBox(page1);
  const inFile = markBox(written);
  for (const edge of ['left', 'top', 'right', 'bottom'] as const) {
    expect(Math.abs(onPage[edge] - inFile[edge])).toBeLessThanOrEqual(1.5);
  }
  for (const [shareX, shareY] of [
    [0.25, 0.5],
    [0.75, 0.5],
  ]) {
    const x = Math.round(inFile.left + (inFile.right - inFile.left) * shareX);
    const y = Math.round(inFile.top + (inFile.bottom - inFile.top) * shareY);
    const at = (y * page1.width + x) * 3;
    for (let c = 0; c < 3; c++) {
      expect(Math.abs(page1.data[at + c] - written.data[at + c])).toBeLessThanOrEqual(3);
    }
  }
});

test('from the start page, three actions: drop on a ticket, look, start', async ({ app, page }) => {
  const paths = await prepare(app);
  const post = (path: string, data: object) =>
    page.request.post(`${app.address}/api${path}`, { data });
  await page.goto(app.address);
  await page.request.post(`${app.address}/api/marks?name=m.png`, {
    data: readFileSync(paths.mark),
    headers: { 'Content-Type': 'application/octet-stream' },
  });
  await post('/presets', { name: 'Low right', markId: 1, rule: {} });
  await post('/deliveries', { name: 'Gallery', presetId: 1, rule: {} });
  await page.reload();

  const bytes = readFileSync(paths.flat).toString('base64');
  const dropped = await page.evaluateHandle(async (base64) => {
    const content = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
    const transfer = new DataTransfer();
    transfer.items.add(new File([content], 'dropped.png', { type: 'image/png' }));
    return transfer;
  }, bytes);
  await page
    .getByRole('group', { name: 'Gallery' })
    .dispatchEvent('drop', { dataTransfer: dropped });
  await expect(page.getByRole('region', { name: 'Confirm the export' })).toContainText(
    'With Low right',
  );
  await page.getByRole('button', { name: 'Start: 1 file' }).click();
  await expect(page.getByText('1 file written.')).toBeVisible();
  await expect(page.getByTestId('outputs').getByRole('button')).toHaveCount(1);

  await page.getByTestId('outputs').getByRole('button').click();
  await expect(page.getByTestId('output-look')).toContainText('dropped-web.jpg');
});
