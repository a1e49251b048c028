import { cpSync, mkdtempSync, realpathSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { AxeBuilder } from '@axe-core/playwright';
import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { DEMO_FOLDER, seedDemo } from '#demo/seed';
import { readConfig } from '#server/config';
import { startServer } from '../helpers/serverProcess.ts';

/** Each test has a server and folders of its own, and fails if the page logs an error. */
export interface App {
  readonly address: string;
  /** Allowed for reading and writing. */
  readonly pictures: string;
  /** Without warning. */
  readonly kill: () => Promise<void>;
  /** At the same address. */
  readonly start: () => Promise<void>;
}

export const test = base.extend<{ app: App; isAsInstalled: boolean; isDemo: boolean }>({
  /** With the made-up season in it. */
  isDemo: [false, { option: true }],
  /** With the deliveries that are there from the first start; most tests make their own. */
  isAsInstalled: [false, { option: true }],
  app: async ({ isAsInstalled, isDemo }, use) => {
    const folder = realpathSync(mkdtempSync(join(tmpdir(), 'light-crest-e2e-')));
    const pictures = realpathSync(mkdtempSync(join(tmpdir(), 'light-crest-pictures-')));
    if (isDemo) cpSync(await season(), folder, { recursive: true });
    let server = await startServer(folder, pictures);
    const { address } = server;
    const start = async (): Promise<void> => {
      server = await startServer(folder, pictures, new URL(address).port);
    };
    if (!isAsInstalled && !isDemo) await removeDeliveries(address);
    await use({ address, pictures, start, kill: () => server.kill() });
    await server.kill();
    rmSync(folder, { recursive: true, force: true });
    rmSync(pictures, { recursive: true, force: true });
  },
  page: async ({ page }, use) => {
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    page.on('console', (message) => {
      // A refused request is reported by the browser too; the page shows it as a sentence. So are
      // the code and the WebAssembly that a view did not get, since the server was stopped.
      const text = message.text();
      const isOutage =
        /ERR_CONNECTION|ERR_INCOMPLETE|ERR_EMPTY_RESPONSE|dynamically imported|wasm|ArrayBuffer inst/.test(
          text,
        );
      if (message.type() === 'error' && !isOutage && !text.startsWith('Failed to load resource'))
        errors.push(text);
    });
    await use(page);
    expect(errors).toEqual([]);
  },
});

let seeding: Promise<string> | null = null;

/** The data of the made-up season, laid out once for all tests of a worker. */
function season(): Promise<string> {
  seeding ??= (async () => {
    const folder = mkdtempSync(join(tmpdir(), 'light-crest-season-'));
    await seedDemo(readConfig({ LIGHT_CREST_DATA: folder, LIGHT_CREST_FOLDERS: DEMO_FOLDER }));
    process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
    return folder;
  })();
  return seeding;
}

async function removeDeliveries(address: string): Promise<void> {
  const deliveries = (await (await fetch(`${address}/api/deliveries`)).json()) as { id: number }[];
  for (const { id } of deliveries) {
    await fetch(`${address}/api/deliveries/${id}`, { method: 'DELETE' });
  }
}

export { expect };

/** All else was looked at in the other theme. */
export async function expectContrast(page: Page): Promise<void> {
  await settled(page);
  await expectNothing(new AxeBuilder({ page }).withRules(['color-contrast']));
}

/** @param part that is looked at, where the rest of the page was already; of an entry its whole menu */
export async function expectAccessible(page: Page, part?: Locator): Promise<void> {
  await settled(page);
  const axe = new AxeBuilder({ page });
  if (part) {
    await part.evaluate((node) => {
      (node.closest('[role="menu"]') ?? node).setAttribute('data-looked-at', '');
    });
    axe.include('[data-looked-at]');
  }
  await expectNothing(axe);
  await page.evaluate(() => {
    document.querySelector('[data-looked-at]')?.removeAttribute('data-looked-at');
  });
}

async function expectNothing(axe: AxeBuilder): Promise<void> {
  const { violations } = await axe.analyze();
  const found = violations.map(({ id, nodes }) => `${id}: ${nodes.map((n) => n.html).join(' | ')}`);
  expect(found).toEqual([]);
}

/** What is fading in has colours that it will not have; a fade begins up to two frames after what it shows is there. */
async function settled(page: Page): Promise<void> {
  await page.evaluate(async () => {
    const frame = () => new Promise((resolve) => requestAnimationFrame(resolve));
    const fading = () =>
      document
        .getAnimations()
        .filter(({ playState }) => playState !== 'finished')
        .filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity)
        .map(({ finished }) => finished);
    let stillFrames = 0;
    while (stillFrames < 4) {
      const running = fading();
      stillFrames = running.length === 0 ? stillFrames + 1 : 0;
      await Promise.allSettled(running);
      await frame();
    }
  });
}
