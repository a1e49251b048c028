import { expect, it } from 'vitest';
import { deliveryRuleSchema } from '#core/contract/delivery';
import { shortDelivery } from './deliveryText.ts';
import { playingText } from './showText.ts';

it.each([
  [{}, 'each for 5 s, fading into the next, over and over'],
  [{ change: 'cut', loop: false, seconds: 2.5 }, 'each for 2.5 s, then the next at once'],
  [
    { loop: false, title: '', caption: '{name}' },
    'each for 5 s, fading into the next, a card with the mark first, with a line under each',
  ],
  [{ loop: false, title: 'Shore' }, 'each for 5 s, fading into the next, “Shore” first'],
])('says of a show %j how it plays', (show, text) => {
  const rule = deliveryRuleSchema.parse({ kind: 'show', show });
  expect(playingText(rule.show)).toBe(text);
  expect(shortDelivery(rule)).toBe(`show, ${rule.show.seconds} s each`);
});
