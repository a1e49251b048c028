import { expect, it } from 'vitest';
import { inOrder } from './benchMarks.ts';

it('puts the mark in hand where it stands among the others', () => {
  expect(inOrder('hand', ['a', 'b'], 0)).toEqual(['hand', 'a', 'b']);
  expect(inOrder('hand', ['a', 'b'], 1)).toEqual(['a', 'hand', 'b']);
  expect(inOrder('hand', ['a', 'b'], 9)).toEqual(['a', 'b', 'hand']);
  expect(inOrder('hand', [], 0)).toEqual(['hand']);
});
