import type { Box } from '../placement/geometry.ts';

/** Numbers and boxes as SVG writes them. */

export function boxAttributes({ x, y, width, height }: Box): string {
  return `x="${short(x)}" y="${short(y)}" width="${short(width)}" height="${short(height)}"`;
}

/** A hundredth of a unit is a hundredth of a pixel where a mark is drawn 1,000 px wide. */
export function short(value: number): number {
  return Number(value.toFixed(3));
}

/** Factors are multiplied with large numbers, so they keep more. */
export function exact(value: number): number {
  return Number(value.toPrecision(9));
}

/** Keeps alpha and replaces every colour. */
export function recoloured(
  content: string,
  colour: string,
  attributes: string,
  id: string,
): string {
  const rows = [1, 3, 5].map((at) => {
    const value = Number.parseInt(colour.slice(at, at + 2), 16) / 255;
    return `0 0 0 0 ${Number(value.toFixed(6))}`;
  });
  return (
    `<filter id="${id}t" color-interpolation-filters="sRGB" x="0" y="0" width="1" height="1">` +
    `<feColorMatrix values="${rows.join(' ')} 0 0 0 1 0"/></filter>` +
    `<g filter="url(#${id}t)"${attributes}>${content}</g>`
  );
}
