import { effectScope, ref, type EffectScope } from 'vue';
import { afterEach, beforeEach, expect, it } from 'vitest';
import type { RunView } from '#core/contract/http';
import { eventually } from '../../tests/helpers/eventually.ts';
import { fakeServer } from '../testing/fakeServer.ts';
import { useAwayOutputs } from './useAwayOutputs.ts';

/** Files of a run that somebody has moved since. */

let scope: EffectScope;
let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  scope = effectScope();
  server = fakeServer({ 'GET /runs/7/away': { outputs: [3], documents: 0 } });
});
afterEach(() => scope.stop());

const run = ref<RunView | null>(null);
const opened = (state: RunView['state']) => {
  run.value = { id: 7, state, written: 2 } as RunView;
  return scope.run(() => useAwayOutputs(() => run.value)) as ReturnType<typeof useAwayOutputs>;
};

it('are asked for once the run has ended, not while it is under way', async () => {
  const away = opened('running');
  expect(server.asked).toHaveLength(0);
  run.value = { id: 7, state: 'done', written: 3 } as RunView;
  await eventually(() => expect([...away.outputs.value]).toEqual([3]));
});

it('are looked for again when one comes back to the window', async () => {
  const away = opened('done');
  await eventually(() => expect(away.outputs.value.size).toBe(1));
  server.set('GET /runs/7/away', { outputs: [], documents: 1 });
  window.dispatchEvent(new Event('focus'));
  await eventually(() => expect([away.outputs.value.size, away.documents.value]).toEqual([0, 1]));
});
