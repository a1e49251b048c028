import { mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, type Browser, type Page } from '@playwright/test';
import sharp from 'sharp';
import type { BatchView } from '#core/contract/http';
import { readConfig } from '#server/config';
import { DEMO_FOLDER, seedDemo } from '../demo/seed.ts';
import { CHROMIUM } from '../tests/helpers/chromium.ts';
import { startServer, type ServerProcess } from '../tests/helpers/serverProcess.ts';
import { ask } from './ask.ts';
import { atMost, median, timedMs, told, type Row } from './measure.ts';

/** The page with the demo's things and a batch of two thousand, drawn without a graphics card. */

const PHOTOS = 2_000;
const BATCH = 'Two thousand';
const ROUNDS = 5;
const POLL_MS = 250;
const MS_PER_SECOND = 1_000;
/** Photos of the wall that are in sight at 1280 × 800, at least. */
const IN_SIGHT = 6;

/** Links of the head of the page, and what is there once their view is. */
const VIEWS = {
  Marks: 'article.entry',
  Presets: 'article.preset',
  Batches: 'a.cover',
  Deliveries: 'article.delivery',
  Runs: 'a.run',
} as const;

export async function pageBench(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-bench-'));
  const [data, pictures] = [join(folder, 'data'), join(folder, 'pictures')];
  mkdirSync(pictures);
  const folders = `${DEMO_FOLDER}:${pictures}`;
  await seedDemo(readConfig({ LIGHT_CREST_DATA: data, LIGHT_CREST_FOLDERS: folders }));
  const server = await startServer(data, folders);
  const browser = await chromium.launch(CHROMIUM);
  try {
    await readBatch(server, pictures);
    const page = await browser.newPage({ viewport: { width: 1_280, height: 800 } });
    await page.addInitScript({ path: fileURLToPath(new URL('inPage.js', import.meta.url)) });
    await page.goto(`${server.address}/`);
    await page.waitForTimeout(2 * MS_PER_SECOND);
    return [
      ...(await changesOfView(page)),
      await markPictures(page),
      ...(await openings(page)),
      ...(await scrolling(page)),
      ...(await measuredAgain(page)),
      await firstMinute(browser, join(folder, 'new data'), folders),
    ];
  } finally {
    await browser.close();
    await server.kill();
    rmSync(folder, { recursive: true });
  }
}

/** Small photos, each with a light of its own. */
async function readBatch(server: ServerProcess, pictures: string): Promise<void> {
  for (let index = 0; index < PHOTOS; index++) {
    const [width, height] = index % 3 ? [900, 600] : [600, 900];
    const noise = { type: 'gaussian', mean: 40 + (index % 160), sigma: 30 } as const;
    const create = { width: 24, height: 16, channels: 3, background: '#000', noise } as const;
    await sharp({ create })
      .resize(width, height, { fit: 'fill' })
      .jpeg()
      .toFile(join(pictures, `${String(index).padStart(4, '0')}.jpg`));
  }
  const { id } = await ask<BatchView>(server, 'POST', '/batches', { name: BATCH, presetId: 2 });
  await ask(server, 'POST', `/batches/${id}/folders`, { path: pictures });
  for (let reading: unknown = true; reading;) {
    await new Promise((done) => setTimeout(done, POLL_MS));
    reading = (await ask<{ reading: unknown }>(server, 'GET', `/batches/${id}`)).reading;
  }
}

const text = JSON.stringify;

/** From a click until the expression `isThere` is true and drawn, ms. */
const clicked = (page: Page, link: string, isThere: string): Promise<number> =>
  page.evaluate(`bench.clicked(${text(link)}, () => ${isThere})`);

/** An expression for {@link clicked}: at least `count` of these pictures are in sight and drawn. */
const drawn = (pictures: string, count: number): string =>
  `bench.areDrawn(${text(pictures)}, ${count})`;

/** Warm: each view has been opened before. */
async function changesOfView(page: Page): Promise<Row[]> {
  const times = new Map<string, number[]>();
  for (let round = 0; round <= ROUNDS; round++) {
    for (const [name, sign] of Object.entries(VIEWS)) {
      const link = `nav a[href="/${name.toLowerCase()}"]`;
      const isThere = `document.querySelector(${text(sign)})?.offsetParent`;
      const ms = await clicked(page, link, isThere);
      if (round > 0) times.set(name, [...(times.get(name) ?? []), ms]);
      await page.waitForTimeout(POLL_MS);
    }
  }
  return [...times].map(([name, all]) => atMost(`page: to ${name}`, median(all), 100, ' ms'));
}

async function markPictures(page: Page): Promise<Row> {
  await page.goto(new URL('/runs', page.url()).href);
  await page.waitForTimeout(MS_PER_SECOND);
  const ms = await clicked(page, 'nav a[href="/marks"]', drawn('article.entry img', 1));
  return atMost('page: pictures of all marks in sight', ms, 300, ' ms');
}

async function openings(page: Page): Promise<Row[]> {
  const [there, pictures]: [number[], number[]] = [[], []];
  for (let round = 0; round < ROUNDS; round++) {
    for (const [times, isThere] of [
      [
        there,
        `document.querySelectorAll('[data-photo] [data-testid="mark"]').length >= ${IN_SIGHT}`,
      ],
      [pictures, drawn('[data-photo] img.picture', IN_SIGHT)],
    ] as const) {
      await page.goto(new URL('/batches', page.url()).href);
      await page.getByRole('link', { name: BATCH }).first().waitFor();
      await page.waitForTimeout(MS_PER_SECOND);
      const link = await page.getByRole('link', { name: BATCH }).first().getAttribute('href');
      times.push(await clicked(page, `a.cover[href="${link}"]`, isThere));
    }
  }
  return [
    atMost(`page: batch of ${PHOTOS}, marks on its photos`, median(there), 500, ' ms'),
    atMost(`page: batch of ${PHOTOS}, pictures in sight`, median(pictures), 500, ' ms'),
  ];
}

/** As soon as it is open, while the server measures the photos, and when it has done so. */
async function scrolling(page: Page): Promise<Row[]> {
  await page.waitForTimeout(2 * MS_PER_SECOND);
  const measuring = await framesWhileScrolling(page);
  await measuredAll(page);
  const atRest = await framesWhileScrolling(page);
  return [
    atMost('page: scrolling, 95 % of frames', shareOf(atRest, 0.95), 34, ' ms'),
    atMost('page: scrolling, the longest frame', shareOf(atRest, 1), 100, ' ms'),
    atMost('page: scrolling while measured, 95 % of frames', shareOf(measuring, 0.95), 34, ' ms'),
    told('page: scrolling while measured, the longest frame', shareOf(measuring, 1), ' ms'),
  ];
}

const shareOf = (sorted: readonly number[], share: number): number =>
  sorted[Math.ceil(sorted.length * share) - 1];

async function framesWhileScrolling(page: Page): Promise<number[]> {
  await page.mouse.move(600, 450);
  await page.evaluate('bench.watchFrames()');
  for (let turn = 0; turn < 100; turn++) {
    await page.mouse.wheel(0, 120);
    await page.waitForTimeout(30);
  }
  return page.evaluate<number[]>('bench.framesMs()');
}

const measuringWords = (page: Page) => page.locator('.progress-words');

const measuredAll = (page: Page): Promise<void> =>
  measuringWords(page)
    .filter({ hasText: /^\s*$/ })
    .waitFor({ state: 'attached', timeout: 120_000 });

/** Another opacity: when the first photos and when all have been measured again. */
async function measuredAgain(page: Page): Promise<Row[]> {
  const words = measuringWords(page);
  const opacity = page.getByLabel('Opacity, exact');
  const first: number[] = [];
  const all: number[] = [];
  for (const value of ['61', '57', '63']) {
    let firstMs = 0;
    all.push(
      await timedMs(async () => {
        await opacity.fill(value);
        await opacity.press('Tab');
        firstMs = await timedMs(() => words.filter({ hasText: /measured [1-9]/ }).waitFor());
        await measuredAll(page);
      }),
    );
    first.push(firstMs);
  }
  const thousandS = (median(all) * 1_000) / PHOTOS / MS_PER_SECOND;
  return [
    atMost('page: photos in sight measured after a change', median(first), 500, ' ms'),
    atMost('page: 1000 photos measured after a change', thousandS, 8, ' s'),
  ];
}

/** From an empty library to exported photos, by a phone photo of a signature: nine actions, no thinking. */
async function firstMinute(browser: Browser, data: string, folders: string): Promise<Row> {
  const demo = fileURLToPath(new URL('../demo', import.meta.url));
  const photos = readdirSync(join(demo, 'photos')).slice(0, 5);
  const server = await startServer(data, folders);
  const page = await browser.newPage({ viewport: { width: 1_280, height: 800 } });
  const click = (name: string) => page.getByRole('button', { name, exact: true }).click();
  const choose = async (button: string, paths: string[]) => {
    const chooser = page.waitForEvent('filechooser');
    await click(button);
    await (await chooser).setFiles(paths);
  };
  try {
    await page.goto(server.address);
    await page.getByRole('button', { name: 'ink on paper' }).waitFor();
    const ms = await timedMs(async () => {
      await page.getByRole('button', { name: 'ink on paper' }).click();
      await choose('Bring in a scan or photo', [join(demo, 'marks', 'signature-phone.jpg')]);
      await click('Turn it');
      await click('Keep as a mark');
      await choose(
        'Choose photos',
        photos.map((name) => join(demo, 'photos', name)),
      );
      await click('Export 5 files');
      await click('Start: 5 files');
      await page.getByText('5 written').waitFor();
    });
    return atMost('page: from nothing to 5 exported files', ms / MS_PER_SECOND, 12, ' s');
  } finally {
    await page.close();
    await server.kill();
  }
}
