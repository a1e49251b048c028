import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { BatchView, DeliveryView, MarkView, RunView } from '#core/contract/http';
import { expect, expectAccessible, test, type App } from './app.ts';

const DEMO = fileURLToPath(new URL('../../demo', import.meta.url));
const PHOTOS = readdirSync(join(DEMO, 'photos'))
  .slice(0, 3)
  .map((name) => join(DEMO, 'photos', name));

test.use({ isAsInstalled: true });

const ask = async <T>(app: App, path: string): Promise<T> =>
  (await (await fetch(`${app.address}/api${path}`)).json()) as T;

test('from nothing to exported photos with a signature on paper, led along in nine actions', async ({
  app,
  page,
}) => {
  const MOST_ACTIONS = 9;
  let actions = 0;
  const act = async (work: Promise<unknown>): Promise<void> => {
    actions++;
    await work;
  };
  await page.goto(app.address);
  const steps = page.getByRole('navigation', { name: 'First steps' });
  await expect(steps.getByRole('link', { name: 'mark' })).toHaveAttribute('aria-current', 'step');
  await expectAccessible(page);
  await act(page.getByRole('button', { name: 'ink on paper' }).click());
  const scanChooser = page.waitForEvent('filechooser');
  await act(page.getByRole('button', { name: 'Bring in a scan or photo' }).click());
  await act((await scanChooser).setFiles(join(DEMO, 'marks', 'signature-phone.jpg')));
  await act(page.getByRole('button', { name: 'Turn it' }).click());
  await act(page.getByRole('button', { name: 'Keep as a mark' }).click());

  // Back where one was, and the next step is the one that is asked for.
  await expect(steps.getByRole('link', { name: 'photos' })).toHaveAttribute('aria-current', 'step');
  await expectAccessible(page);
  const photoChooser = page.waitForEvent('filechooser');
  await act(page.getByRole('button', { name: 'Choose photos', exact: true }).click());
  await act((await photoChooser).setFiles(PHOTOS));
  await expect(page.getByRole('button', { name: 'Export 3 files' })).toBeEnabled();
  await expect(steps.getByRole('link', { name: 'look' })).toHaveAttribute('aria-current', 'step');
  await act(page.getByRole('button', { name: 'Export 3 files' }).click());
  await expect(steps.getByRole('link', { name: 'export' })).toHaveAttribute('aria-current', 'step');
  await act(page.getByRole('button', { name: 'Start: 3 files' }).click());
  await expect(page.getByText('3 written')).toBeVisible();
  await expect(steps).toBeHidden();
  expect(actions).toBeLessThanOrEqual(MOST_ACTIONS);

  const [mark] = await ask<MarkView[]>(app, '/marks');
  expect(mark.ink.width).toBeGreaterThan(2 * mark.ink.height);
  const [run] = await ask<RunView[]>(app, '/runs');
  expect(
    readdirSync(run.deliveries[0].folder).filter((name) => name.endsWith('-web.jpg')),
  ).toHaveLength(3);
});

test('example photos come at one click, and go at another; what is used of them stays', async ({
  app,
  page,
}) => {
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Try it with example photos' }).click();
  await expect(page.getByText('24 photos', { exact: true })).toBeVisible();
  await expect(page).toHaveTitle(/Breakwater mornings/);
  const steps = page.getByRole('navigation', { name: 'First steps' });
  await expect(steps.getByRole('link', { name: 'look' })).toHaveAttribute('aria-current', 'step');
  const presets = await ask<{ id: number; name: string }[]>(app, '/presets');
  expect(presets.length).toBeGreaterThan(2);
  const [delivery] = await ask<DeliveryView[]>(app, '/deliveries');
  const { id, name, rule, folder, favourite, version: baseVersion } = delivery;
  const changed = await page.request.put(`${app.address}/api/deliveries/${id}`, {
    data: { name, rule, folder, favourite, baseVersion, presetId: presets[0].id },
  });
  expect(changed.ok(), await changed.text()).toBe(true);
  await app.kill();
  await app.start();
  await page.goto(app.address);
  await page.getByRole('button', { name: 'Take them away' }).click();
  await expect(page.getByText('The examples are gone.')).toBeVisible();
  expect(await ask<BatchView[]>(app, '/batches')).toEqual([]);
  const left = await ask<{ id: number; markId: number }[]>(app, '/presets');
  expect(left.map(({ id }) => id)).toEqual([presets[0].id]);
  const marks = await ask<MarkView[]>(app, '/marks');
  expect(marks.map(({ id }) => id)).toEqual([left[0].markId]);
});

test('a logo file leads on, and photos dropped on any view become a batch', async ({
  app,
  page,
}) => {
  await page.goto(app.address);
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'a logo file' }).click();
  await (await chooser).setFiles(join(DEMO, 'marks', 'crest-logo.svg'));
  const steps = page.getByRole('navigation', { name: 'First steps' });
  await expect(steps.getByRole('link', { name: 'photos' })).toHaveAttribute('aria-current', 'step');
  await page.goto(`${app.address}/settings`);
  await expect(page).toHaveTitle('Settings · Light Crest');
  const photo = readFileSync(PHOTOS[0]).toString('base64');
  const transfer = await page.evaluateHandle((base64) => {
    const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
    const data = new DataTransfer();
    data.items.add(new File([bytes], 'dropped.jpg', { type: 'image/jpeg' }));
    return data;
  }, photo);
  await page.dispatchEvent('header', 'dragover', { dataTransfer: transfer });
  await expect(page.getByText('Make a batch of them')).toBeVisible();
  await page.dispatchEvent('header', 'drop', { dataTransfer: transfer });
  await expect(page.getByRole('button', { name: 'Export 1 file' })).toBeEnabled();
  await expect(page.getByText('Make a batch of them')).toBeHidden();
});
