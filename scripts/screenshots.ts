import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { cp, readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, type Page } from '@playwright/test';
import type { BatchView, MarkView, ScanView } from '#core/contract/http';
import { readConfig } from '#server/config';
import { DEMO_FOLDER, seedDemo } from '../demo/seed.ts';
import { CHROMIUM } from '../tests/helpers/chromium.ts';
import { startServer } from '../tests/helpers/serverProcess.ts';

/** `npm run screenshots`: one picture of each view, from freshly made demo data. */

const OUT = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
const VIEWPORT = { width: 1280, height: 800 };
const PHONE = { width: 390, height: 844 };
const SETTLE_MS = 900;

const folder = mkdtempSync(join(tmpdir(), 'light-crest-'));
const data = join(folder, 'data');
const pictures = join(folder, 'Pictures');
mkdirSync(OUT, { recursive: true });
await cp(join(DEMO_FOLDER, 'photos'), join(pictures, 'Breakwater mornings'), { recursive: true });
const env = { LIGHT_CREST_DATA: data, LIGHT_CREST_FOLDERS: `${DEMO_FOLDER}:${pictures}` };
await seedDemo(readConfig(env));
const server = await startServer(data, `${DEMO_FOLDER}:${pictures}`);
const browser = await chromium.launch(CHROMIUM);
try {
  await takeAll(await browser.newPage({ viewport: VIEWPORT }));
} finally {
  await browser.close();
  await server.kill();
  rmSync(folder, { recursive: true });
}

async function takeAll(page: Page): Promise<void> {
  // Folders of this computer are nobody's business.
  await page.route('**/api/**', async (route) => {
    if (route.request().resourceType() !== 'fetch') return route.continue();
    // A kept connection may just have been closed by the server.
    const answer = await route.fetch({ maxRetries: 3 });
    const isText = answer.headers()['content-type']?.includes('json');
    if (!isText) return route.fulfill({ response: answer });
    const text = await answer.text();
    return route.fulfill({ response: answer, body: hidden(text) });
  });
  const batches = (await (
    await page.request.get(`${server.address}/api/batches`)
  ).json()) as BatchView[];
  const mornings = batches.find(({ name }) => name === 'Breakwater mornings')?.id;
  const take = async (name: string): Promise<void> => {
    await page.waitForLoadState('networkidle');
    await page.waitForTimeout(SETTLE_MS);
    await page.screenshot({ path: join(OUT, `${name}.png`) });
  };
  const open = (path: string) => page.goto(`${server.address}${path}`);

  for (const view of ['marks', 'presets', 'batches', 'deliveries', 'runs', 'settings']) {
    await open(`/${view}`);
    await take(view);
  }
  await takeMarksComingIn(page, open, take);
  await open('/');
  await take('start');
  await open('/presets/1');
  await take('preset');
  await open(`/batches/${mornings}`);
  await take('batch');
  // In the middle the mark lies on sky, light and houses: all three classes are there.
  await page.keyboard.press('5');
  await page.getByText(/^measured/).waitFor({ state: 'hidden' });
  await page.locator('[data-class=lost]').first().hover();
  await take('readability');
  await page.getByRole('button', { name: 'Put back' }).click();
  await page.mouse.move(0, 0);
  await page.getByTestId('wall').locator('[data-photo]').nth(3).click();
  await page.keyboard.press('Enter');
  await page.keyboard.press('w');
  await page.getByRole('radio', { name: '100 %' }).click();
  await page.locator('[data-testid=region][data-waiting=false] img.pixels').first().waitFor();
  await take('closer-look');
  await page.keyboard.press('Escape');
  await page.keyboard.press('g');
  await take('confirm');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await page.getByRole('checkbox', { name: /Proof sheet/ }).check();
  await page.getByRole('checkbox', { name: /Web gallery/ }).uncheck();
  await page.getByRole('button', { name: /^Export \d/ }).click();
  await page.getByRole('img', { name: 'Sheet 1 as it will be printed' }).waitFor();
  await take('sheets');
  await open('/runs/1');
  await take('run');
  await page.getByTestId('outputs').getByRole('button').nth(5).click();
  await take('output');
  await page.setViewportSize(PHONE);
  await open(`/batches/${mornings}`);
  await page.getByRole('button', { name: 'Place' }).click();
  await take('phone');
}

/** The signature's own scan, and the initials signed again. */
async function takeMarksComingIn(
  page: Page,
  open: (path: string) => Promise<unknown>,
  take: (name: string) => Promise<void>,
): Promise<void> {
  const marks = (await (
    await page.request.get(`${server.address}/api/marks`)
  ).json()) as MarkView[];
  const signed = marks.find(({ origin }) => origin === 'pen');
  const shaded = await page.request.post(`${server.address}/api/scans?name=in-shadow.jpg`, {
    headers: { 'Content-Type': 'application/octet-stream' },
    data: await readFile(join(DEMO_FOLDER, 'marks', 'signature-in-shadow.jpg')),
  });
  const { id } = (await shaded.json()) as ScanView;
  await open(`/marks/from-paper/${id}`);
  await page.getByText('Kept as outlines').waitFor();
  await page.getByRole('radio', { name: 'Dark', exact: true }).click();
  await take('from-paper');
  await open(`/marks/pen?mark=${signed?.id}`);
  await take('pen');
  await takeDesigner(page, marks, open, take);
}

/** Somewhere to begin, a finished mark, and the fonts its words could be set in. */
async function takeDesigner(
  page: Page,
  marks: readonly MarkView[],
  open: (path: string) => Promise<unknown>,
  take: (name: string) => Promise<void>,
): Promise<void> {
  await open('/marks/compose');
  await page.getByRole('button', { name: 'On an arc' }).waitFor();
  const lockup = marks.find(({ name }) => name === 'Quillon Bay lockup');
  await open(`/marks/${lockup?.id}/design`);
  await page.getByRole('radio', { name: 'light', exact: true }).click();
  await page.locator('.stage[data-rest=true]').waitFor();
  await take('designer');
}

function hidden(text: string): string {
  return text
    .replaceAll(join(data, 'exports'), '/home/ines/Light Crest/exports')
    .replaceAll(pictures, '/home/ines/Pictures')
    .replaceAll(DEMO_FOLDER.replace(/\/$/, ''), '/home/ines/Demo');
}
