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

it('what cannot go on paper gives way to it, and comes back with files as it was otherwise', () => {
  const png = deliveryRuleSchema.parse({ file: { type: 'png' }, dpi: 300 });
  const paper = coherentRule(png, { kind: 'sheet' });
  expect(paper).toMatchObject({ kind: 'sheet', file: { type: 'jpeg' }, dpi: 300 });
  const stays = deliveryRuleSchema.parse({ resize: null, file: { quality: 'untouched' } });
  const printed = coherentRule(stays, { kind: 'sheet' });
  expect(printed.file.quality).toBe(95);
  for (const rule of [paper, printed, coherentRule(paper, { kind: 'files' })]) {
    expect(deliveryRuleSchema.safeParse(rule).success).toBe(true);
  }
});
