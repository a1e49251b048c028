import { expect, it } from 'vitest';
import { deliveryRuleSchema } from '../contract/delivery.ts';
import { coherentRule } from './coherentRule.ts';

const usual = deliveryRuleSchema.parse({ file: { max_bytes: 90_000 } });

it('a size and a limit give way to blocks that stay, and those to a size, a type or a limit', () => {
  const stays = coherentRule(usual, { file: { ...usual.file, quality: 'untouched' } });
  expect(stays).toMatchObject({ resize: null, file: { quality: 'untouched', max_bytes: null } });
  expect(deliveryRuleSchema.safeParse(stays).success).toBe(true);
  for (const part of [
    { resize: usual.resize },
    { file: { ...stays.file, type: 'png' as const } },
    { file: { ...stays.file, max_bytes: 90_000 } },
  ]) {
    const changed = coherentRule(stays, part);
    expect(changed).toMatchObject(part.resize ? part : { file: { quality: 95 } });
    expect(changed.file.quality).toBe(95);
    expect(deliveryRuleSchema.safeParse(changed).success).toBe(true);
  }
  expect(coherentRule(stays, { dpi: 300 })).toEqual({ ...stays, dpi: 300 });
});
