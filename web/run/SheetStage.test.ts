import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { DEFAULT_RULE } from '#core/contract/preset';
import type { DeliveryPlanView, RunPlanView, RunWish } from '#core/contract/http';
import SheetStage from './SheetStage.vue';

const WISH: RunWish = {
  ...{ batchId: 1, deliveryIds: [4, 5], presetName: 'Low right', markId: 1, rule: DEFAULT_RULE },
  ...{ over: [], photoIds: null, order: null },
};
const delivery = (part: Partial<DeliveryPlanView>): DeliveryPlanView => ({
  ...{ deliveryId: 4, name: 'Web', preset: 'Low right', folder: '/out', files: 5, examples: [] },
  ...{ existing: 0, sameNames: 0, estimatedBytes: 0, reducedBits: 0, paper: null, ...part },
});
const paper = { sheets: 2, width: 297, height: 210, room: 8 };
const PLAN: RunPlanView = {
  ...{ photos: 5, files: 6, estimatedBytes: 1, sourceBytes: 1, leftOut: 0, undated: 0, disks: [] },
  ...{ problem: null, deliveries: [delivery({}), delivery({ name: 'Proofs', files: 1, paper })] },
};

let asked: { sheet: number; delivery: number }[];
let plan: RunPlanView;
let answer: () => Promise<Response>;
beforeEach(() => {
  setActivePinia(createPinia());
  asked = [];
  plan = PLAN;
  answer = () => Promise.resolve(new Response('a picture'));
  vi.stubGlobal('fetch', (path: string, init: RequestInit) => {
    if (path.endsWith('/plan')) return Promise.resolve(new Response(JSON.stringify(plan)));
    asked.push(JSON.parse(init.body as string) as (typeof asked)[number]);
    return answer();
  });
  vi.stubGlobal(
    'URL',
    Object.assign(URL, { createObjectURL: () => 'blob:sheet', revokeObjectURL: () => undefined }),
  );
});
afterEach(() => vi.unstubAllGlobals());

async function stage() {
  const mounted = mount(SheetStage, { props: { wish: WISH } });
  await flushPromises();
  return mounted;
}

it('shows the sheets of the delivery that goes to paper, one at a time', async () => {
  const mounted = await stage();
  expect(mounted.text()).toContain('sheet 1 of 2');
  expect(mounted.text()).toContain('2 sheets of 297 × 210 mm, printed on 313 × 226, Proofs');
  expect(mounted.find('img').attributes('src')).toBe('blob:sheet');
  const [before, after] = mounted.findAll('button');
  expect(before.attributes('disabled')).toBeDefined();
  await after.trigger('click');
  await flushPromises();
  expect(asked.map(({ sheet, delivery: number }) => [number, sheet])).toEqual([
    [2, 0],
    [2, 1],
  ]);
  expect(mounted.findAll('button')[1].attributes('disabled')).toBeDefined();
});

it('says why a sheet cannot be drawn, and draws it when it is asked for again', async () => {
  answer = () => Promise.reject(new TypeError('away'));
  const mounted = await stage();
  expect(mounted.get('[role=alert]').text()).toContain('does not answer');
  answer = () => Promise.resolve(new Response('a picture'));
  await mounted.findAll('button')[1].trigger('click');
  await flushPromises();
  expect(mounted.find('[role=alert]').exists()).toBe(false);
  expect(mounted.find('img').exists()).toBe(true);
});

it('keeps the last sheet that was asked for, whichever answer comes first', async () => {
  const waiting: ((response: Response) => void)[] = [];
  answer = () => new Promise((resolve) => waiting.push(resolve));
  const mounted = await stage();
  await mounted.findAll('button')[1].trigger('click');
  await flushPromises();
  waiting[1](new Response('the second'));
  waiting[0](new Response('the first'));
  await flushPromises();
  expect(mounted.get('img').attributes('alt')).toBe('Sheet 2 as it will be printed');
  expect(mounted.get('img').classes()).not.toContain('coming');
});

it('asks for none where the run cannot be', async () => {
  plan = { ...PLAN, problem: 'There is no room.' };
  await stage();
  expect(asked).toEqual([]);
});
