import { expect, it } from 'vitest';
import { presetRuleSchema } from '../contract/preset.ts';
import { changedUpright, isUpright, ruleFor } from './uprightRule.ts';

const TALL = { width: 2, height: 3 };
const rule = presetRuleSchema.parse({});

it('a square is not upright', () => {
  expect([isUpright(TALL), isUpright({ width: 2, height: 2 })]).toEqual([true, false]);
});

it('keeps what is meant for upright photos apart, and the rest for all', () => {
  const changed = changedUpright(rule, { anchor: 'bottom', opacity: 0.4 });
  expect(changed).toMatchObject({
    anchor: 'bottom-right',
    opacity: 0.4,
    upright: { anchor: 'bottom' },
  });
  const again = changedUpright(changed, { rotation: 90 });
  expect(again.upright).toEqual({ anchor: 'bottom', rotation: 90 });
  expect(ruleFor(again, TALL)).toMatchObject({ anchor: 'bottom', rotation: 90, size: rule.size });
  expect(changedUpright(rule, { blend: 'screen' }).upright).toBeNull();
  expect(changedUpright(again, { upright: null }).upright).toBeNull();
});
