import { describe, expect, it } from 'vitest';
import { nextTick, ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { useWallSelection } from './useWallSelection.ts';

function photo(id: number, width: number, height: number, lightness = 50): PhotoView {
  return { id, width, height, lightness, name: `${id}.jpg` } as PhotoView;
}

describe('selection', () => {
  const photos = ref([1, 2, 3, 4].map((id) => photo(id, 3, 2)));
  const click = (part: object) => ({ target: null, ...part }) as unknown as MouseEvent;

  it('grows by Ctrl and Shift, and follows photos that leave', async () => {
    const wall = useWallSelection(photos);
    wall.choose(photos.value[0], click({ ctrlKey: true }));
    wall.choose(photos.value[2], click({ shiftKey: true }));
    expect([...wall.selected.value].sort()).toEqual([1, 2, 3]);
    wall.choose(photos.value[1], click({ ctrlKey: true }));
    expect([...wall.selected.value].sort()).toEqual([1, 3]);
    photos.value = photos.value.filter(({ id }) => id !== 3);
    await nextTick();
    expect([...wall.selected.value]).toEqual([1]);
    wall.step(1);
    expect(wall.currentId.value).toBe(4);
    wall.step(1);
    expect(wall.currentId.value).toBe(4);
  });
});
