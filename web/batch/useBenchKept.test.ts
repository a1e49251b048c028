import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it } from 'vitest';
import { effectScope, nextTick, ref, type Ref } from 'vue';
import type { BatchView, PresetView } from '#core/contract/http';
import { presetRuleSchema } from '#core/contract/preset';
import { useLibrary } from '../app/library.ts';
import { useSaving } from '../app/saving.ts';
import { useDraft } from '../preset/draft.ts';
import { fakeServer, type Asked } from '../testing/fakeServer.ts';
import { useBatches } from './batches.ts';
import { untoldBench, useBenchKept } from './useBenchKept.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

const preset = (id: number): PresetView => ({
  ...{ id, name: `P${id}`, markId: 1, updatedAt: '', usedBy: [], rule: presetRuleSchema.parse({}) },
  ...{ favourite: false, uses: 0, usedAt: null, version: 1 },
});
const mark = {
  ...{ id: 1, name: 'Crest', version: 1, kind: 'svg' as const, bleed: { x: 0, y: 0 }, tokens: [] },
  ...{ ink: { x: 0, y: 0, width: 3, height: 1 }, notes: [], retired: false, usedBy: [] },
  ...{ origin: 'file' as const, scanId: null, box: null, isPending: false },
};
const batch = (id: number, part: Partial<BatchView> = {}): BatchView => ({
  ...{ id, name: `Batch ${id}`, presetId: 1, deliveryIds: [3], openedAt: '', photoCount: 0 },
  ...{ coverId: null, pins: {}, placing: null, beside: { at: 0, marks: [] } },
  ...part,
});

/** A server that keeps what is told of its batches. */
function server(kept: Map<number, BatchView>) {
  const change = ({ path, body }: Asked): BatchView => {
    const id = Number(path.split('/').pop());
    const next = { ...(kept.get(id) ?? batch(id)), ...(body as Partial<BatchView>) };
    kept.set(id, next);
    return next;
  };
  return fakeServer({ 'PATCH /batches/1': change, 'PATCH /batches/2': change });
}

const kept = new Map<number, BatchView>();
let scope = effectScope();

/** The view of a batch, as far as its bench goes. */
function opened(id: number): Ref<readonly number[]> {
  scope.stop();
  scope = effectScope();
  const now = kept.get(id) ?? batch(id);
  const deliveryIds = ref(now.deliveryIds);
  useBatches().open = now;
  useDraft().open(now.presetId ?? (now.placing ? null : 1), now);
  scope.run(() => useBenchKept(() => id, deliveryIds));
  return deliveryIds;
}

beforeEach(() => {
  localStorage.clear();
  kept.clear();
  setActivePinia(createPinia());
  const library = useLibrary();
  library.marks = [mark];
  library.presets = [preset(1), preset(2)];
});

it('keeps a placement that is no preset and the delivery, each batch its own', async () => {
  const asked = server(kept);
  const draft = useDraft();
  const deliveryIds = opened(1);
  draft.change({ opacity: 0.4 });
  deliveryIds.value = [5, 3];
  await nextTick();
  expect(await useSaving().flush()).toBe(true);
  expect(kept.get(1)).toMatchObject({ deliveryIds: [5, 3], placing: { markId: 1, base: 1 } });
  // Another batch with the same preset has it as it is saved.
  opened(2);
  expect([draft.isDirty, draft.rule.opacity]).toEqual([false, 0.85]);
  opened(1);
  expect([draft.isDirty, draft.rule.opacity]).toEqual([true, 0.4]);
  draft.putBack();
  await nextTick();
  await useSaving().flush();
  expect(kept.get(1)?.placing).toBeNull();
  expect(asked.of('PATCH', '/batches/1').length).toBeLessThan(4);
});

it('keeps marks that are laid over the first, also before the server was told', async () => {
  server(kept);
  opened(1);
  const draft = useDraft();
  draft.addMark(2);
  await nextTick();
  expect(untoldBench(1)?.beside.marks).toEqual([{ presetId: 2, placing: null }]);
  await useSaving().flush();
  expect(untoldBench(1)).toBeNull();
  expect(kept.get(1)?.beside).toEqual(draft.beside);
  opened(2);
  expect(draft.others).toEqual([]);
  opened(1);
  expect(draft.others.map(({ name }) => name)).toEqual(['P2']);
});

it('keeps one without a preset, also for a browser that never saw it', async () => {
  server(kept);
  opened(1);
  useDraft().open(null, { id: 1 });
  useDraft().change({ opacity: 0.3 });
  await nextTick();
  await useSaving().flush();
  localStorage.clear();
  setActivePinia(createPinia());
  useLibrary().marks = [mark];
  opened(1);
  const draft = useDraft();
  expect([draft.presetId, draft.rule.opacity]).toEqual([null, 0.3]);
});

it('has what could not be sent before what the server knows', async () => {
  const away = server(kept);
  away.set('PATCH /batches/1', () => away.isDown());
  opened(1);
  useDraft().change({ opacity: 0.4 });
  await nextTick();
  expect(await useSaving().flush()).toBe(false);
  setActivePinia(createPinia());
  server(kept);
  const library = useLibrary();
  library.marks = [mark];
  library.presets = [preset(1), preset(2)];
  opened(1);
  expect(useDraft().rule.opacity).toBe(0.4);
});

it('follows another window where nothing was changed in this one', async () => {
  const asked = server(kept);
  const deliveryIds = opened(1);
  const placing = { markId: 1, base: 1, rule: presetRuleSchema.parse({ opacity: 0.2 }) };
  useBatches().open = batch(1, { placing, deliveryIds: [4] });
  await nextTick();
  expect([useDraft().rule.opacity, deliveryIds.value]).toEqual([0.2, [4]]);
  await nextTick();
  await eventually(() => expect(asked.of('PATCH', '/batches/1')).toEqual([]));
});

it('that is left and come back to has what another window put there meanwhile', async () => {
  const asked = server(kept);
  opened(1);
  useDraft().change({ opacity: 0.4 });
  await nextTick();
  await useSaving().flush();
  // The view is left; nothing of it follows any more.
  scope.stop();
  useBatches().open = null;
  const placing = { markId: 1, base: 1, rule: presetRuleSchema.parse({ opacity: 0.2 }) };
  kept.set(1, batch(1, { placing }));
  const before = asked.of('PATCH', '/batches/1').length;
  opened(1);
  await nextTick();
  expect(useDraft().rule.opacity).toBe(0.2);
  expect(await useSaving().flush()).toBe(true);
  expect(asked.of('PATCH', '/batches/1')).toHaveLength(before);
});
