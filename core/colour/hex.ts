/** Red, green and blue, 0 to 255. */
export type Rgb = readonly [number, number, number];

/** @param hex `#rrggbb` */
export function rgbOf(hex: string): Rgb {
  const number = Number.parseInt(hex.slice(1), 16);
  return [(number >> 16) & 255, (number >> 8) & 255, number & 255];
}

export function hexOf(colour: Rgb): string {
  return `#${colour.map((value) => value.toString(16).padStart(2, '0')).join('')}`;
}
