import { expect, it } from 'vitest';
import { PixelRoom } from './pixelRoom.ts';

it('lets photos in as they fit, and one beyond all room alone', async () => {
  const room = new PixelRoom(100);
  const order: string[] = [];
  const small = await room.take(60);
  const huge = room.take(500).then((release) => {
    order.push('huge');
    return release;
  });
  const second = await room.take(40);
  await new Promise((done) => setTimeout(done, 5));
  expect(order).toEqual([]);
  small();
  await new Promise((done) => setTimeout(done, 5));
  expect(order).toEqual([]);
  second();
  const release = await huge;
  const last = room.take(1).then(() => order.push('last'));
  await new Promise((done) => setTimeout(done, 5));
  expect(order).toEqual(['huge']);
  release();
  await last;
  expect(order).toEqual(['huge', 'last']);
});
