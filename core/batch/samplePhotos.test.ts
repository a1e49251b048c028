import { describe, expect, it } from 'vitest';
import { brightAndDark, samplePhotos } from './samplePhotos.ts';

function photo(id: number, width: number, height: number, lightness = 50) {
  return { id, width, height, lightness };
}

describe('sample photos', () => {
  it('are the widest, tallest, darkest, brightest and squarest photos', () => {
    const some = [
      ...[photo(1, 30, 10), photo(2, 10, 20), photo(3, 3, 2, 5), photo(4, 3, 2, 95)],
      ...[photo(5, 10, 10), photo(6, 3, 2), photo(7, 3, 2)],
    ];
    expect(samplePhotos(some).map(({ id }) => id)).toEqual([1, 2, 3, 4, 5]);
    expect(samplePhotos(some.slice(0, 3))).toHaveLength(3);
    expect(samplePhotos([])).toEqual([]);
  });

  it('have the darkest and brightest that lie, where others are darker and brighter', () => {
    const some = [
      ...[photo(1, 30, 10, 1), photo(2, 10, 20, 99), photo(3, 3, 2, 20), photo(4, 3, 2, 70)],
      ...[photo(5, 10, 10, 50), photo(6, 3, 2, 10), photo(7, 3, 2, 80), photo(8, 3, 2, 40)],
    ];
    const samples = samplePhotos(some);
    expect(samples.map(({ id }) => id)).toEqual(expect.arrayContaining([6, 7]));
    expect(brightAndDark(samples)).toEqual(brightAndDark(some));
    expect(brightAndDark(some)).toMatchObject({ bright: { id: 7 }, dark: { id: 6 } });
  });

  it('are bright and dark by what there is, where nothing lies', () => {
    const [dark, bright] = [photo(1, 2, 3, 20), photo(2, 2, 3, 70)];
    expect(brightAndDark([bright, dark])).toEqual({ bright, dark });
    expect(brightAndDark([])).toBeNull();
  });
});
