import { expect, it } from 'vitest';
import { deliveryRuleSchema } from '../contract/delivery.ts';
import { filesOf } from './filesOf.ts';

it.each([
  [{}, 5],
  [{ kind: 'show' }, 1],
  [{ kind: 'sheet' }, 1],
  [{ kind: 'sheet', sheet: { as: 'tiff' } }, 5],
  [{ kind: 'sheet', sheet: { as: 'jpeg', grid: { columns: 2, rows: 1 } } }, 3],
])('of %j and five photos', (part, files) => {
  const rule = deliveryRuleSchema.parse(part);
  expect(filesOf(rule, 5)).toBe(files);
  expect(filesOf(rule, 0)).toBe(0);
});
