import { describe, expect, it } from 'vitest';
import type { PhotoView } from '#core/contract/http';
import { sample } from './useSamplePhotos.ts';

function photo(id: number, width: number, height: number, lightness = 50): PhotoView {
  return { id, width, height, lightness, name: `${id}.jpg` } as PhotoView;
}

describe('sample photos', () => {
  it('are the widest, tallest, darkest, brightest and squarest photos', () => {
    const some = [
      ...[photo(1, 30, 10), photo(2, 10, 20), photo(3, 3, 2, 5), photo(4, 3, 2, 95)],
      ...[photo(5, 10, 10), photo(6, 3, 2), photo(7, 3, 2)],
    ];
    expect(sample(some).map(({ id }) => id)).toEqual([1, 2, 3, 4, 5]);
    expect(sample(some.slice(0, 3))).toHaveLength(3);
  });
});
