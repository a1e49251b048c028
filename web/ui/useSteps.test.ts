import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref, type EffectScope } from 'vue';
import { useSteps } from './useSteps.ts';

let scope: EffectScope;
beforeEach(() => {
  vi.useFakeTimers();
  scope = effectScope();
});
afterEach(() => {
  scope.stop();
  vi.useRealTimers();
});

function begin() {
  const state = ref({ at: 0 });
  const steps = scope.run(() => useSteps(state));
  if (!steps) throw new Error('The scope has ended.');
  return { state, steps };
}

async function pause(): Promise<void> {
  await nextTick();
  await vi.advanceTimersByTimeAsync(400);
}

describe('useSteps', () => {
  it('takes a drag for one step', async () => {
    const { state, steps } = begin();
    for (let at = 1; at <= 5; at++) {
      state.value = { at };
      await nextTick();
    }
    await pause();
    steps.undo();
    expect(state.value.at).toBe(0);
    steps.redo();
    expect(state.value.at).toBe(5);
  });

  it('takes back what was changed a moment ago, and only that', async () => {
    const { state, steps } = begin();
    state.value = { at: 1 };
    await pause();
    state.value = { at: 2 };
    steps.undo();
    expect(state.value.at).toBe(1);
  });

  it('has nothing to take back after it starts', async () => {
    const { state, steps } = begin();
    state.value = { at: 7 };
    await nextTick();
    steps.start();
    await pause();
    expect(steps.canUndo.value).toBe(false);
    expect(state.value.at).toBe(7);
  });

  it('does not take an undo for a step', async () => {
    const { state, steps } = begin();
    state.value = { at: 1 };
    await pause();
    steps.undo();
    await pause();
    expect(steps.canRedo.value).toBe(true);
    expect(steps.canUndo.value).toBe(false);
  });

  it('does not lose a change that was made a moment before it is asked to redo', async () => {
    const { state, steps } = begin();
    state.value = { at: 1 };
    await pause();
    steps.undo();
    state.value = { at: 7 };
    steps.redo();
    expect(state.value.at).toBe(7);
    steps.undo();
    expect(state.value.at).toBe(0);
  });
});
