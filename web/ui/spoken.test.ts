import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { effectScope, nextTick, ref } from 'vue';
import { spoken, useSpoken } from './spoken.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

it('says what has come to rest, and nothing of what passed', async () => {
  const count = ref(0);
  const scope = effectScope();
  scope.run(() => useSpoken(() => (count.value > 0 ? `${count.value} selected` : '')));
  for (const now of [1, 2, 3]) {
    count.value = now;
    await nextTick();
    await vi.advanceTimersByTimeAsync(300);
  }
  expect(spoken.value).toBe('');
  await vi.advanceTimersByTimeAsync(2_000);
  expect(spoken.value).toBe('3 selected');
  scope.stop();
});

it('tells of what never rests now and then', async () => {
  const written = ref(0);
  const scope = effectScope();
  scope.run(() => useSpoken(() => `${written.value} of 1,000`, 20_000));
  const said = new Set<string>();
  for (let second = 1; second <= 45; second++) {
    written.value = second;
    await nextTick();
    await vi.advanceTimersByTimeAsync(1_000);
    said.add(spoken.value);
  }
  expect([...said].filter((text) => text.includes('of 1,000')).length).toBeLessThanOrEqual(3);
  expect(said.size).toBeGreaterThan(1);
  scope.stop();
});
