import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it } from 'vitest';
import { ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import type { WallShow } from './useWallFilter.ts';
import { useWallWords } from './useWallWords.ts';

beforeEach(() => setActivePinia(createPinia()));

function titleOf(show: WallShow, find = '', photos: readonly PhotoView[] = [{} as PhotoView]) {
  const wall = { photos: ref(photos), isLoading: ref(false), show: ref(show), find: ref(find) };
  return useWallWords({ batchId: () => 1, ...wall }).emptyTitle.value;
}

it.each([
  ['faint', 'No photo is faint'],
  ['left out', 'No photo is left out'],
  ['wordless', 'No photo lacks words of its mark'],
  ['letterless', 'No photo has letters missing'],
  ['touching', 'No photo has marks that touch'],
] as const)('says in plain words that none is %s', (show, title) => {
  expect(titleOf(show)).toBe(title);
});

it('says that none is called so, and nothing of an empty batch', () => {
  expect(titleOf('faint', 'tern')).toBe('No photo is called that');
  expect(titleOf('all', '', [])).toBeNull();
});
