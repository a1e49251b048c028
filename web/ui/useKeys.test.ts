import { effectScope, type EffectScope } from 'vue';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { useHeldKey, useKeys } from './useKeys.ts';

/** Who takes a key: the part above, the field that is typed in, the question that is open, or nobody. */

let scope: EffectScope;
beforeEach(() => (scope = effectScope()));
afterEach(() => {
  scope.stop();
  document.body.innerHTML = '';
});

function press(key: string, on: EventTarget = document.body): KeyboardEvent {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
  on.dispatchEvent(event);
  return event;
}
const field = (): HTMLInputElement => document.body.appendChild(document.createElement('input'));

it('does nothing else where it was taken, and goes on where it was not', () => {
  scope.run(() => useKeys(({ key }) => key === 'a'));
  expect(press('a').defaultPrevented).toBe(true);
  expect(press('b').defaultPrevented).toBe(false);
});

it('belongs to the part above, which was asked first', () => {
  const below = vi.fn(() => true);
  scope.run(() => {
    useKeys(below);
    useKeys(({ key }) => key === 'Escape', { first: true });
  });
  press('Escape');
  expect(below).not.toHaveBeenCalled();
  press('a');
  expect(below).toHaveBeenCalledOnce();
});

it('is typed into a field, unless the part asked for that too', () => {
  const [plain, always] = [vi.fn(() => true), vi.fn(() => true)];
  scope.run(() => {
    useKeys(plain);
    useKeys(always, { whileTyping: true });
  });
  press('z', field());
  expect(plain).not.toHaveBeenCalled();
  expect(always).toHaveBeenCalledOnce();
});

it('belongs to the question that is open', () => {
  const take = vi.fn(() => true);
  scope.run(() => useKeys(take, { first: true, whileTyping: true }));
  document.body.innerHTML = '<div class="modal show"></div>';
  press('Escape');
  expect(take).not.toHaveBeenCalled();
});

it('is not listened to any more once the part is gone', () => {
  const take = vi.fn(() => true);
  scope.run(() => useKeys(take));
  scope.stop();
  press('a');
  expect(take).not.toHaveBeenCalled();
});

it.each(['keyup', 'blur'])('is held until %s, wherever that happens', (end) => {
  const isHeld = scope.run(() => useHeldKey(({ key }) => key === 'w'));
  press('w');
  expect(isHeld?.value).toBe(true);
  window.dispatchEvent(new Event(end));
  expect(isHeld?.value).toBe(false);
});
