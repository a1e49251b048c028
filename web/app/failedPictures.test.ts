import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { noteAnswer, noteAway } from '../api/connection.ts';
import { giveUp, keepTrying, watchPictures } from './failedPictures.ts';

let asked: string[];
beforeEach(() => {
  vi.useFakeTimers();
  asked = [];
});
afterEach(() => vi.useRealTimers());

function picture(address: string, isInPage = true): HTMLImageElement {
  const image = document.createElement('img');
  let now = address;
  Object.defineProperty(image, 'src', {
    get: () => now,
    set: (next: string) => {
      now = next;
      if (next !== '') asked.push(next);
    },
  });
  if (isInPage) document.body.append(image);
  return image;
}

const fail = (image: HTMLImageElement): boolean => image.dispatchEvent(new Event('error'));

watchPictures();

it('hides a picture that did not come, and loads it when the server is back', () => {
  const image = picture('/api/marks/1/raster?version=1');
  noteAway();
  fail(image);
  expect(image.classList.contains('failed-picture')).toBe(true);
  noteAnswer();
  expect(asked).toEqual(['/api/marks/1/raster?version=1']);
  image.dispatchEvent(new Event('load'));
  expect(image.classList.contains('failed-picture')).toBe(false);
});

it('tries again by itself after a while, and ever more seldom', () => {
  const image = picture('/api/photos/1/tile');
  fail(image);
  vi.advanceTimersByTime(2_100);
  expect(asked).toHaveLength(1);
  fail(image);
  vi.advanceTimersByTime(2_100);
  expect(asked).toHaveLength(1);
  vi.advanceTimersByTime(2_100);
  expect(asked).toHaveLength(2);
  image.dispatchEvent(new Event('load'));
  vi.advanceTimersByTime(60_000);
  expect(asked).toHaveLength(2);
});

it('leaves pictures alone that are no server’s, or are not wanted any more', () => {
  fail(picture('data:image/png;base64,AAAA'));
  const drawn = picture('/api/marks/2/raster', false);
  keepTrying(drawn);
  fail(drawn);
  giveUp(drawn);
  vi.advanceTimersByTime(60_000);
  expect(asked).toEqual([]);
});
