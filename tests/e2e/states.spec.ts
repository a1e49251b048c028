import type { Locator, Page } from '@playwright/test';
import { expect, expectAccessible, expectContrast, test } from './app.ts';

/** Axe finds nothing in any state of any view: menus, sheets, dialogs, tools, surrounds, themes. */

// What fades in is judged as it is then.
test.use({ isDemo: true, contextOptions: { reducedMotion: 'reduce' } });
test.describe.configure({ timeout: 300_000 });

const button = (page: Page, name: string | RegExp): Locator =>
  page.getByRole('button', { name, exact: typeof name === 'string' });

/** Something that opens from a button: looked at, then closed by Escape. */
async function opened(page: Page, opener: Locator, seen: Locator): Promise<void> {
  await opener.click();
  await expect(seen).toBeVisible();
  await expectAccessible(page, seen);
  await page.keyboard.press('Escape');
  await expect(seen).toBeHidden();
}

const menu = (page: Page): Locator => page.getByRole('menuitem').first();
const dialog = (page: Page): Locator => page.getByRole('dialog');

/** An entry of a menu that opens a dialog. */
async function entry(page: Page, opener: Locator, name: string): Promise<void> {
  await opener.click();
  await opened(page, page.getByRole('menuitem', { name, exact: true }), dialog(page));
}

test('lists: start, marks, presets, batches, deliveries, runs, settings', async ({ app, page }) => {
  const go = async (path: string, seen: Locator) => {
    await page.goto(app.address + path);
    await expect(seen).toBeVisible();
    await expectAccessible(page);
  };
  await go('/', page.getByRole('heading', { name: 'Last batches' }));
  await opened(page, button(page, 'Read a folder in place'), dialog(page));
  await go('/batches', page.getByRole('heading', { name: 'Batches' }));
  await go('/runs', page.getByRole('heading', { name: 'Runs' }));
  await go('/nowhere', page.getByText('Nothing is here'));

  await go('/marks', page.getByRole('article').first());
  const more = page.getByRole('button', { name: /^More for/ }).first();
  await opened(page, more, menu(page));
  for (const name of ['Rename', 'Earlier versions']) await entry(page, more, name);
  await opened(page, page.getByRole('button', { name: /^Download/ }).first(), dialog(page));

  await go('/presets', page.getByRole('article').first());
  await page.getByText('most used').click();
  await expectAccessible(page);

  await go('/deliveries', page.getByRole('article').first());
  const card = page.getByRole('article').first();
  await opened(page, card.getByRole('button', { name: /^More/ }), menu(page));
  for (const name of ['Rename', 'Earlier versions']) {
    await entry(page, card.getByRole('button', { name: /^More/ }), name);
  }
  const phrases = card.locator('p').getByRole('button');
  for (let index = 0; index < (await phrases.count()); index++) {
    await phrases.nth(index).click();
    await expect(phrases.nth(index)).toHaveAttribute('aria-expanded', 'true');
    await expectAccessible(page, card);
  }

  await go('/settings', page.getByRole('heading', { name: 'Bin' }));
  await opened(page, button(page, 'Choose'), dialog(page));
});

test('a batch: its menus, filters, sheets, surrounds and confirmation', async ({ app, page }) => {
  await page.goto(`${app.address}/batches/2`);
  const tiles = page.getByTestId('wall').getByRole('group');
  await expect(tiles.first()).toBeVisible();
  await expect(page.getByText(/measured/)).toHaveCount(0);
  await expectAccessible(page);
  await opened(page, button(page, 'Batch'), menu(page));
  await entry(page, button(page, 'Batch'), 'Rename');
  await entry(page, button(page, 'Batch'), 'Read a folder in place');
  await opened(page, page.getByRole('button', { name: /as a chart$/ }), dialog(page));
  for (const surround of ['paper', 'black', 'grey']) {
    await page.getByText(surround, { exact: true }).click();
    await expectAccessible(page, page.getByTestId('wall'));
  }
  await page.getByRole('button', { name: /adjusted$/ }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: /adjusted$/ }).click();
  await page.getByLabel('Find photos by name').fill('no such photo');
  await expect(page.getByText('No photo is called that')).toBeVisible();
  await expectAccessible(page);
  await button(page, 'Show all photos').click();
  const sheet = (name: string | RegExp) => page.getByRole('region', { name });
  await opened(
    page,
    page.getByRole('button', { name: /^if unclear|^else/ }),
    sheet(/not be clear/),
  );
  await opened(page, button(page, 'no repeat'), sheet('Repeat'));
  await opened(page, page.getByRole('button', { name: 'Change Web gallery' }), sheet(/^Delivery/));
  await page.getByRole('button', { name: /cropped free/ }).click();
  await expectAccessible(page);
  await page.getByRole('button', { name: /cropped free/ }).click();
  await page.keyboard.press('?');
  await expect(dialog(page)).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('Escape');
  for (const index of [0, 1]) await tiles.nth(index).getByRole('checkbox').check({ force: true });
  await expect(page.getByRole('radio', { name: 'the 2 selected' })).toBeVisible();
  await page.keyboard.press('7');
  await expectAccessible(page);
  await button(page, 'none').click();
  await tiles.first().getByRole('button').first().hover();
  await expect(page.getByTestId('reading')).toBeVisible();
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Export/ }).click();
  await expect(page.getByRole('button', { name: /^Start/ })).toBeEnabled();
  await expectAccessible(page);
});

test('a closer look with its tools, a run and an output', async ({ app, page }) => {
  await page.goto(`${app.address}/batches/2`);
  await expect(page.getByTestId('wall').getByRole('group').first()).toBeVisible();
  await page.keyboard.press('.');
  await page.keyboard.press('Enter');
  await expect(button(page, 'Back to the wall')).toBeVisible();
  await expectAccessible(page);
  for (const tool of ['wipe', 'stamp', 'tone']) {
    await button(page, tool).click();
    await expectAccessible(page);
  }
  await page.getByText('100 %', { exact: true }).click();
  await page.waitForTimeout(600);
  await expectAccessible(page);
  await page.goto(`${app.address}/runs/1`);
  await expect(page.getByTestId('outputs').getByRole('button').first()).toBeVisible();
  await expectAccessible(page);
  await page.getByTestId('outputs').getByRole('button').first().click();
  await page.waitForTimeout(600);
  await expectAccessible(page);
});

test('a preset, the designer, from paper, the pen', async ({ app, page }) => {
  await page.goto(`${app.address}/presets/1`);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  const more = page.getByRole('button', { name: /^More for/ });
  await opened(page, more, menu(page));
  for (const name of ['Rename', 'Earlier versions']) await entry(page, more, name);

  await page.goto(`${app.address}/marks/7/design`);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expectAccessible(page);
  const named = (name: string) => page.getByRole('button', { name: new RegExp(`^${name}\\s*$`) });
  for (const name of ['Artwork', 'Shape']) await opened(page, named(name), menu(page));
  for (const layer of ['Quillon Bay', 'Outer ring', 'Marlow initials', 'The whole mark']) {
    await page.locator(`text="${layer}" >> visible=true`).first().click();
    await expectAccessible(page);
    if (layer === 'Quillon Bay') await opened(page, named('Saved'), menu(page));
  }
  await page.goto(`${app.address}/marks/compose`);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expectAccessible(page);
  await page.goto(`${app.address}/marks/pen`);
  await expect(page.getByRole('heading', { name: 'Tries' })).toBeVisible();
  await expectAccessible(page);
  await page.goto(`${app.address}/marks/from-paper`);
  await expect(button(page, 'Bring in a scan or photo')).toBeVisible();
  await expectAccessible(page);
});

test('the dim theme holds its contrast in every view', async ({ app, page }) => {
  await page.emulateMedia({ colorScheme: 'dark' });
  for (const path of [
    ...['/', '/marks', '/presets', '/presets/1', '/batches', '/batches/2', '/deliveries', '/runs'],
    ...['/runs/1', '/settings', '/marks/7/design', '/marks/from-paper', '/marks/pen'],
    ...['/marks/compose', '/batches/2?confirm=1'],
  ]) {
    await page.goto(app.address + path);
    await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
    await page.waitForTimeout(700);
    await expectContrast(page);
  }
});
