import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { expect, expectAccessible, test } from './app.ts';

/** Low and narrow windows, much zoom, and fingers instead of a mouse. */

const DEMO = fileURLToPath(new URL('../../demo', import.meta.url));
const PHOTOS = readdirSync(join(DEMO, 'photos'))
  .slice(0, 2)
  .map((name) => join(DEMO, 'photos', name));

test.describe('by touch on a phone', () => {
  test.use({ isAsInstalled: true, hasTouch: true, viewport: { width: 390, height: 844 } });

  async function chooseByTap(page: Page, name: string | RegExp, files: string | string[]) {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name }).tap();
    await (await chooser).setFiles(files);
  }

  test('from nothing to exported photos', async ({ app, page }) => {
    await page.goto(app.address);
    await expect(page.getByRole('button', { name: /a logo file/ })).toBeVisible();
    await expectAccessible(page);
    await chooseByTap(page, /a logo file/, join(DEMO, 'marks', 'crest-logo.svg'));
    await chooseByTap(page, 'Choose photos', PHOTOS);
    const go = page.getByRole('button', { name: 'Export 2 files' });
    await expect(go).toBeEnabled();
    // The bench is a drawer: a tab opens its panel, and the wall keeps its room.
    const wall = page.getByTestId('wall');
    const before = await wall.boundingBox();
    await page.getByRole('button', { name: 'Place' }).tap();
    await expectAccessible(page);
    await page.getByRole('radio', { name: 'high right' }).tap();
    await expect(page.getByRole('radio', { name: 'high right' })).toBeChecked();
    expect(await wall.boundingBox()).toEqual(before);
    // A photo is selected without hovering.
    await wall.getByRole('checkbox').first().tap();
    await expect(page.getByText('1 selected').first()).toBeVisible();
    await page.getByRole('button', { name: 'none', exact: true }).tap();
    await go.tap();
    await expectAccessible(page);
    await page.getByRole('button', { name: 'Start: 2 files' }).tap();
    await expect(page.getByText('2 files written.')).toBeVisible();
    await expectAccessible(page);
    // Every view is a tap away.
    await page.getByRole('button', { name: 'Menu' }).tap();
    await page.getByRole('menuitem', { name: 'Settings' }).tap();
    await expect(page.getByRole('heading', { name: 'Settings' })).toBeVisible();
  });
});

test.describe('with the season', () => {
  test.use({ isDemo: true });

  /** At 100 % and, of a window of 1280 × 800, at 200 and 400 %. */
  const SIZES = [
    [1366, 625],
    [960, 540],
    [820, 1180],
    [390, 844],
    [640, 400],
    [320, 200],
  ] as const;
  const VIEWS = [
    ...['/', '/marks', '/presets', '/presets/1', '/batches', '/batches/2', '/deliveries', '/runs'],
    ...['/runs/1', '/settings', '/marks/7/design', '/marks/from-paper', '/marks/pen'],
    '/marks/compose',
  ];

  /** Controls that nothing can click, since something else lies on them or they are out of reach. */
  const unreachable = (page: Page): Promise<string[]> =>
    page.evaluate(() => {
      const controls = document.querySelectorAll<HTMLElement>('button, a[href], input, select');
      const isMeant = (control: HTMLElement): boolean => {
        const { visibility, pointerEvents, opacity } = getComputedStyle(control);
        const isOff = control.matches(':disabled, .skip, [tabindex="-1"], .visually-hidden-input');
        const isHidden = control.closest('[aria-hidden="true"]') !== null;
        const isSeen = visibility !== 'hidden' && pointerEvents !== 'none' && opacity !== '0';
        return !isOff && !isHidden && isSeen && control.getClientRects().length > 0;
      };
      const isReached = (control: HTMLElement): boolean => {
        control.scrollIntoView({ block: 'center', inline: 'center' });
        const { left, top, width, height } = control.getBoundingClientRect();
        const shares = [0.5, 0.2, 0.8];
        return shares.some((x) =>
          shares.some((y) => {
            const hit = document.elementFromPoint(left + x * width, top + y * height);
            return hit !== null && (control.contains(hit) || hit.contains(control));
          }),
        );
      };
      return [...controls]
        .filter((control) => isMeant(control) && !isReached(control))
        .map((control) => control.getAttribute('aria-label') ?? control.textContent ?? '');
    });

  test('nothing is out of reach, and nothing scrolls sideways', async ({ app, page }) => {
    test.setTimeout(300_000);
    for (const view of VIEWS) {
      for (const [width, height] of SIZES) {
        await page.setViewportSize({ width, height });
        await page.goto(app.address + view);
        await expect(page.locator('main')).not.toBeEmpty();
        await page.waitForTimeout(400);
        const sideways = await page.evaluate(() =>
          Math.max(
            document.documentElement.scrollWidth,
            ...[...document.querySelectorAll('.page, .work, main')].map((part) => part.scrollWidth),
          ),
        );
        const where = `${view} at ${width} × ${height}`;
        expect(sideways, `${where} scrolls sideways`).toBeLessThanOrEqual(width);
        // A ring is taken hold of by its line.
        const lost = (await unreachable(page)).filter((name) => name !== 'Outer ring');
        expect(lost, where).toEqual([]);
      }
    }
  });

  test('a low laptop window leaves the wall 300 px, whatever is open', async ({ app, page }) => {
    await page.setViewportSize({ width: 1366, height: 625 });
    await page.goto(`${app.address}/batches/2`);
    const wall = page.getByTestId('wall');
    await expect(wall.getByRole('group').first()).toBeVisible();
    const height = async (): Promise<number> => (await wall.boundingBox())?.height ?? 0;
    expect(await height()).toBeGreaterThanOrEqual(300);
    const place = page.getByRole('button', { name: /^Place/ });
    await place.click();
    await page.getByRole('button', { name: /if unclear|else/ }).click();
    await expect(
      page.getByRole('region', { name: 'Where the mark would not be clear' }),
    ).toBeVisible();
    expect(await height()).toBeGreaterThanOrEqual(300);
    await expectAccessible(page);
    // Back to the panel it was opened from, then to its tab.
    await page.keyboard.press('Escape');
    await expect(place).toHaveAttribute('aria-expanded', 'true');
    await page.keyboard.press('Escape');
    await expect(place).toHaveAttribute('aria-expanded', 'false');
    await expect(place).toBeFocused();
  });
});
