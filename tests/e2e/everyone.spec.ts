import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import type { ExamplesView, RunView } from '#core/contract/http';
import { expect, expectAccessible, test } from './app.ts';

/** By keyboard alone, and what opens over a view. */

const DEMO = fileURLToPath(new URL('../../demo', import.meta.url));
const PHOTOS = readdirSync(join(DEMO, 'photos'))
  .slice(0, 2)
  .map((name) => join(DEMO, 'photos', name));
const MOST_TABS = 90;

test.use({ isAsInstalled: true });

/** Where the focus is, by the words of the control. */
const focused = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const active = document.activeElement;
    const words = active?.matches('main, body') ? '' : active?.textContent?.trim();
    return active?.getAttribute('aria-label') ?? words ?? '';
  });

async function tabTo(page: Page, words: string): Promise<void> {
  for (let tabs = 0; tabs < MOST_TABS; tabs++) {
    if ((await focused(page)).includes(words)) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`"${words}" is not reached by ${MOST_TABS} tabs.`);
}

async function chooseByEnter(page: Page, files: string | string[]): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.keyboard.press('Enter');
  await (await chooser).setFiles(files);
}

test('from nothing to exported photos by keyboard alone', async ({ app, page }) => {
  // Listened to from the start: a key is quicker than the order to listen.
  page.on('filechooser', () => undefined);
  await page.goto(app.address);
  await page.keyboard.press('Tab');
  expect(await focused(page)).toBe('Skip to the view');
  await page.keyboard.press('Enter');
  await tabTo(page, 'a logo file');
  await chooseByEnter(page, join(DEMO, 'marks', 'crest-logo.svg'));
  const steps = page.getByRole('navigation', { name: 'First steps' });
  await expect(steps.getByRole('link', { name: 'photos' })).toHaveAttribute('aria-current', 'step');
  await tabTo(page, 'Choose photos');
  await chooseByEnter(page, PHOTOS);
  await expect(page.getByRole('button', { name: 'Export 2 files' })).toBeEnabled();
  // The focus is at the beginning of the new view, so single keys mean it.
  await page.keyboard.press('9');
  await expect(page.getByText('high right')).toBeVisible();
  await page.keyboard.press('g');
  await expect(page.getByRole('button', { name: 'Start: 2 files' })).toBeVisible();
  await tabTo(page, 'Start: 2 files');
  await page.keyboard.press('Enter');
  await expect(page.getByText('2 written')).toBeVisible();
  const [run] = (await (await page.request.get(`${app.address}/api/runs`)).json()) as RunView[];
  expect(readdirSync(run.deliveries[0].folder)).toHaveLength(2);
});

test('what opens over a batch is accessible, closes with Escape and gives the focus back', async ({
  app,
  page,
}) => {
  const laid = await page.request.post(`${app.address}/api/examples`);
  const { batchId } = (await laid.json()) as ExamplesView;
  await page.goto(`${app.address}/batches/${batchId}`);
  await expect(page.getByText('24 photos', { exact: true })).toBeVisible();
  await expect(page).toHaveTitle(/Breakwater mornings · Light Crest/);

  const sheets = [
    { opener: /if unclear|else/, region: 'Where the mark would not be clear' },
    { opener: /repeat/, region: 'Repeat' },
  ];
  for (const { opener, region } of sheets) {
    const button = page.getByRole('button', { name: opener });
    await button.click();
    const sheet = page.getByRole('region', { name: region });
    await expect(sheet).toBeFocused();
    await expectAccessible(page, sheet);
    await page.keyboard.press('Escape');
    await expect(sheet).toBeHidden();
    await expect(button).toBeFocused();
  }

  const menu = page.getByRole('button', { name: 'Batch' }).filter({ hasText: '▾' });
  await menu.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  const question = page.getByRole('dialog', { name: 'Rename the batch' });
  await expect(question.getByLabel('Name')).toBeFocused();
  await expectAccessible(page, question);
  await page.keyboard.press('Escape');
  await expect(question).toBeHidden();
  await expect(menu).toBeFocused();

  await page.locator('main').focus();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Shortcuts' })).toBeVisible();
  await expectAccessible(page);
});

test('single keys do nothing where they are switched off, or where the head has the focus', async ({
  app,
  page,
}) => {
  const laid = await page.request.post(`${app.address}/api/examples`);
  const { batchId } = (await laid.json()) as ExamplesView;
  await page.goto(`${app.address}/batches/${batchId}`);
  await expect(page.getByText('low right', { exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Presets' }).focus();
  await page.keyboard.press('7');
  await expect(page.getByText('low right', { exact: true })).toBeVisible();
  await page.goto(`${app.address}/settings`);
  await page.getByLabel('Single keys act on the mark and the photos').uncheck();
  await page.goto(`${app.address}/batches/${batchId}`);
  await expect(page.getByText('low right', { exact: true })).toBeVisible();
  await page.keyboard.press('7');
  await page.keyboard.press('o');
  await expect(page.getByText('low right', { exact: true })).toBeVisible();
  await expect(page.getByText('changed, not saved')).toBeHidden();
});
