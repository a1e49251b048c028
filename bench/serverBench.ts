import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import sharp from 'sharp';
import type { BatchView, RunDetailView } from '#core/contract/http';
import { presetRuleSchema } from '#core/contract/preset';
import { CHROMIUM } from '../tests/helpers/chromium.ts';
import {
  atRulesSvg,
  hugePng,
  longPdf,
  nestedSvg,
  nonsenseFont,
} from '../tests/helpers/oddFiles.ts';
import { startServer, type ServerProcess } from '../tests/helpers/serverProcess.ts';
import { ask } from './ask.ts';
import { folderOf, MARK } from './material.ts';
import { atLeast, atMost, median, treeMemoryMb, type Row } from './measure.ts';

/** The running application: import, the memory of a long run, a large batch in the browser. */

const IMPORTED = 200;
const EXPORTED = 500;
const ON_THE_WALL = 1_000;
const WALL_ROUNDS = 5;
const POLL_MS = 250;
const MS_PER_SECOND = 1_000;

export async function serverBench(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-bench-'));
  const pictures = join(folder, 'pictures');
  const data = join(folder, 'data');
  for (const path of [data, join(pictures, 'out')]) mkdirSync(path, { recursive: true });
  await folderOf(IMPORTED, join(pictures, 'camera'));
  await folderOf(EXPORTED - IMPORTED, join(pictures, 'camera', 'more'));
  const server = await startServer(data, pictures);
  try {
    return [
      await importing(server, join(pictures, 'camera')),
      ...(await longRun(server, join(pictures, 'out'))),
      await wall(server, join(pictures, 'wall')),
      ...(await planning(server, join(pictures, 'more for the wall'))),
      ...(await oddFiles(server)),
    ];
  } finally {
    await server.kill();
    rmSync(folder, { recursive: true });
  }
}

const pause = () => new Promise((done) => setTimeout(done, POLL_MS));

async function importing(server: ServerProcess, folder: string): Promise<Row> {
  const { id } = await ask<BatchView>(server, 'POST', '/batches', { name: 'Bench' });
  const startMs = performance.now();
  await ask(server, 'POST', `/batches/${id}/folders`, { path: folder });
  let atCount = 0;
  let reading: unknown = true;
  while (reading) {
    await pause();
    const now = await ask<{ reading: { done: number } | null }>(server, 'GET', `/batches/${id}`);
    reading = now.reading;
    if (atCount === 0 && (now.reading?.done ?? EXPORTED) >= IMPORTED) {
      atCount = (now.reading?.done ?? EXPORTED) / ((performance.now() - startMs) / MS_PER_SECOND);
    }
  }
  return atLeast('import: 24-megapixel photos a second', atCount, 8);
}

async function longRun(server: ServerProcess, out: string): Promise<Row[]> {
  const mark = await ask<{ id: number }>(server, 'POST', '/marks?name=m.svg', readFileSync(MARK));
  const delivery = { name: 'Web', rule: { name_pattern: '{name}-{number}' }, folder: out };
  const { id: deliveryId } = await ask<{ id: number }>(server, 'POST', '/deliveries', delivery);
  const rule = presetRuleSchema.parse({});
  await ask(server, 'POST', '/presets', { name: 'P', markId: mark.id, rule });
  const wish = { batchId: 1, deliveryIds: [deliveryId], markId: mark.id, presetName: 'P', rule };
  const { id } = await ask<{ id: number }>(server, 'POST', '/runs', wish);
  const samples: number[] = [];
  for (;;) {
    await pause();
    samples.push(treeMemoryMb(server.pid));
    const { run } = await ask<RunDetailView>(server, 'GET', `/runs/${id}`);
    if (run.state === 'done') break;
  }
  // The first tenth is still warming up.
  const warm = samples.slice(Math.ceil(samples.length / 10));
  const half = Math.floor(warm.length / 2);
  const peak = (some: readonly number[]): number => Math.max(...some);
  return [
    atMost(`memory of a run of ${EXPORTED}: peak, all processes`, peak(samples), 500, ' MB'),
    atMost(
      'memory: second half of the run to the first',
      peak(warm.slice(half)) / peak(warm.slice(0, half)),
      1.1,
    ),
  ];
}

async function wall(server: ServerProcess, folder: string): Promise<Row> {
  const { id } = await ask<BatchView>(server, 'POST', '/batches', { name: 'Wall' });
  await readSmall(server, id, folder);
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const times: number[] = [];
  for (let round = 0; round < WALL_ROUNDS; round++) {
    await page.goto(`${server.address}/batches`);
    await page.getByRole('link', { name: /Wall/ }).waitFor();
    const startMs = performance.now();
    await page.getByRole('link', { name: /Wall/ }).click();
    // Usable: the marks are on the photos, and a key moves them.
    await page.getByTestId('wall').getByTestId('mark').first().waitFor();
    await page.keyboard.press('7');
    await page.getByText('high left').waitFor();
    times.push(performance.now() - startMs);
    await page.getByRole('button', { name: 'Put back' }).click();
  }
  await browser.close();
  return atMost(`wall of ${ON_THE_WALL}: usable after`, median(times) / MS_PER_SECOND, 1, ' s');
}

/** As many small photos as the wall has, read into a batch. */
async function readSmall(server: ServerProcess, batchId: number, folder: string): Promise<void> {
  mkdirSync(folder);
  const create = { width: 900, height: 600, channels: 3, background: '#567' } as const;
  const scene = await sharp({ create }).jpeg().toBuffer();
  for (let number = 0; number < ON_THE_WALL; number++) {
    writeFileSync(join(folder, `${number}.jpg`), scene);
  }
  await ask(server, 'POST', `/batches/${batchId}/folders`, { path: folder });
  for (let reading: unknown = true; reading;) {
    await pause();
    reading = (await ask<{ reading: unknown }>(server, 'GET', `/batches/${batchId}`)).reading;
  }
}

const PLANNING_ROUNDS = 5;

/** A run of twice the wall with a mark of many strokes, and what other requests wait meanwhile. */
async function planning(server: ServerProcess, folder: string): Promise<Row[]> {
  const batchId = 2;
  await readSmall(server, batchId, folder);
  const strokes = Array.from({ length: 40 }, (_, stroke) => ({
    points: Array.from({ length: 250 }, (__, at) => [at * 4, stroke * 9 + (at % 7), 0.5]).flat(),
    pressure: true,
  }));
  const drawing = { drawing: { strokes, pen: {} }, name: 'Strokes', markId: null };
  const mark = await ask<{ id: number }>(server, 'POST', '/marks/pen', drawing);
  const rule = presetRuleSchema.parse({});
  const wish = { batchId, deliveryIds: [1], markId: mark.id, presetName: 'P', rule };
  const times: number[] = [];
  let slowestMs = 0;
  for (let round = 0; round < PLANNING_ROUNDS; round++) {
    let isPlanned = false;
    const others = (async () => {
      while (!isPlanned) {
        const startMs = performance.now();
        await ask(server, 'GET', '/settings');
        slowestMs = Math.max(slowestMs, performance.now() - startMs);
      }
    })();
    const startMs = performance.now();
    await ask(server, 'POST', '/runs/plan', wish);
    times.push(performance.now() - startMs);
    isPlanned = true;
    await others;
  }
  const photos = 2 * ON_THE_WALL;
  return [
    atMost(`planning a run of ${photos}`, median(times) / MS_PER_SECOND, 1, ' s'),
    atMost('planning: the slowest other request meanwhile', slowestMs, 500, ' ms'),
  ];
}

/** Files made to be slow or nonsense: the slowest answer, and what other requests wait meanwhile. */
async function oddFiles(server: ServerProcess): Promise<Row[]> {
  const files: [string, Buffer][] = [
    ['/marks?name=nested.svg', nestedSvg()],
    ['/marks?name=rules.svg', atRulesSvg()],
    ['/marks?name=huge.png', hugePng()],
    ['/marks?name=long.pdf', await longPdf()],
    ['/fonts?name=nonsense.ttf', nonsenseFont()],
  ];
  let slowestMs = 0;
  let othersMs = 0;
  for (const [path, body] of files) {
    let isAnswered = false;
    const others = (async () => {
      while (!isAnswered) {
        const startMs = performance.now();
        await ask(server, 'GET', '/settings');
        othersMs = Math.max(othersMs, performance.now() - startMs);
      }
    })();
    const startMs = performance.now();
    const headers = { 'Content-Type': 'application/octet-stream' };
    const init = { method: 'POST', headers, body: new Uint8Array(body) };
    const { status } = await fetch(`${server.address}/api${path}`, init);
    slowestMs = Math.max(slowestMs, performance.now() - startMs);
    isAnswered = true;
    await others;
    if (status !== 422) throw new Error(`Expected ${path} to be refused, found ${status}.`);
  }
  return [
    atMost('odd files: the slowest is answered after', slowestMs / MS_PER_SECOND, 5, ' s'),
    atMost('odd files: the slowest other request meanwhile', othersMs, 500, ' ms'),
  ];
}
