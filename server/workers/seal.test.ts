import { expect, it } from 'vitest';
import { sealOf } from './seal.ts';

it('gives back what was sealed with the same token, typed arrays too', () => {
  const value = { name: 'a.jpg', none: undefined, map: new Float32Array([0.5, NaN]), at: null };
  const seal = sealOf('one');
  expect(seal.open(seal.close(value))).toEqual(value);
  expect(seal.close(value)).not.toBe(seal.close(value));
  expect(seal.close(value)).not.toContain('a.jpg');
});

it('refuses what another token sealed, what was changed, and what is none', () => {
  const [own, other] = [sealOf('one'), sealOf('two')];
  expect(own.name).not.toBe(other.name);
  expect(() => own.open(other.close({}))).toThrow();
  const sealed = Buffer.from(own.close({ opacity: 1 }), 'base64');
  sealed[sealed.length - 1] ^= 1;
  expect(() => own.open(sealed.toString('base64'))).toThrow();
  for (const none of ['', 'AAAA', 'no seal']) expect(() => own.open(none)).toThrow();
});
