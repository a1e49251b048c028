import { expect, it, vi } from 'vitest';
import { z } from 'zod';
import { parseOnce } from './parseOnce.ts';

it('reads the same text once, and another anew', () => {
  const parse = vi.fn((value: unknown) => value);
  const read = parseOnce(z.unknown().transform(parse));
  expect(read('{"a":1}')).toEqual({ a: 1 });
  expect(read('{"a":1}')).toBe(read('{"a":1}'));
  expect(read('null')).toBeNull();
  expect(read('null')).toBeNull();
  expect(parse).toHaveBeenCalledTimes(2);
});

it('throws each time where it cannot be read', () => {
  const read = parseOnce(z.object({ a: z.number() }));
  for (const text of ['{', '{"a":"b"}', '{"a":"b"}']) expect(() => read(text)).toThrow();
});
