import { hexOf } from '#core/colour/hex';
import { clamp, type Point } from '#core/placement/geometry';

/** A dropper takes the mean of this many px to each side. */
const REACH_PX = 2;

/**
 * The colour of a picture at a place, as `#rrggbb`.
 *
 * @param place shares of its width and height
 * @returns null while the picture has not loaded
 */
export function colourAt(image: HTMLImageElement, place: Point): `#${string}` | null {
  const side = 2 * REACH_PX + 1;
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [side, side];
  const context = canvas.getContext('2d');
  if (!context || !image.naturalWidth) return null;
  const x = clamp(place.x * image.naturalWidth - REACH_PX, 0, image.naturalWidth - side);
  const y = clamp(place.y * image.naturalHeight - REACH_PX, 0, image.naturalHeight - side);
  context.drawImage(image, x, y, side, side, 0, 0, side, side);
  const { data } = context.getImageData(0, 0, side, side);
  const mean = [0, 0, 0];
  for (let at = 0; at < data.length; at += 4) {
    for (let channel = 0; channel < 3; channel++) mean[channel] += data[at + channel];
  }
  const [red, green, blue] = mean.map((sum) => Math.round(sum / side ** 2));
  return hexOf([red, green, blue]) as `#${string}`;
}

/** Where in an element a pointer is, as shares of its size. */
export function placeIn(element: HTMLElement, event: PointerEvent | MouseEvent): Point {
  const frame = element.getBoundingClientRect();
  return {
    x: clamp((event.clientX - frame.left) / frame.width, 0, 1),
    y: clamp((event.clientY - frame.top) / frame.height, 0, 1),
  };
}
