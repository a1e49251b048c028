import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useNamedSteps } from './useNamedSteps.ts';

beforeEach(() => void vi.useFakeTimers({ toFake: ['performance'] }));
afterEach(() => void vi.useRealTimers());

describe('useNamedSteps', () => {
  it('takes back and brings again, each by its name', () => {
    const steps = useNamedSteps('empty');
    steps.change('Add words', 'words');
    steps.change('Glow', 'glowing');
    expect(steps.undoName.value).toBe('Glow');
    steps.undo();
    expect([steps.state.value, steps.undoName.value, steps.redoName.value]).toEqual([
      ...['words', 'Add words', 'Glow'],
    ]);
    steps.redo();
    expect(steps.state.value).toBe('glowing');
    expect(steps.redoName.value).toBeNull();
  });

  it('takes a drag for one step, and two drags for two', () => {
    const steps = useNamedSteps(0);
    for (const at of [1, 2, 3]) steps.change('Move', at);
    steps.settle();
    for (const at of [4, 5]) steps.change('Move', at);
    steps.undo();
    expect(steps.state.value).toBe(3);
    steps.undo();
    expect(steps.state.value).toBe(0);
    expect(steps.undoName.value).toBeNull();
  });

  it('begins a step anew after a pause', () => {
    const steps = useNamedSteps('');
    steps.change('Words', 'a');
    vi.advanceTimersByTime(2_000);
    steps.change('Words', 'ab');
    steps.undo();
    expect(steps.state.value).toBe('a');
  });

  it('forgets what was undone once something else is changed, and all when it starts', () => {
    const steps = useNamedSteps(0);
    steps.change('One', 1);
    steps.undo();
    steps.change('Two', 2);
    expect(steps.redoName.value).toBeNull();
    steps.undo();
    expect(steps.state.value).toBe(0);
    steps.start(7);
    expect([steps.state.value, steps.undoName.value]).toEqual([7, null]);
    steps.undo();
    expect(steps.state.value).toBe(7);
  });

  it('keeps the newest steps of very many', () => {
    const steps = useNamedSteps(0);
    for (let at = 1; at <= 400; at++) steps.change(`Step ${at}`, at);
    for (let back = 0; back < 500; back++) steps.undo();
    expect(steps.state.value).toBe(100);
  });
});
