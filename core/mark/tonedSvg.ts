import { hexOf } from '../colour/hex.ts';
import type { ToneChoice } from '../contract/preset.ts';
import { toneColour } from './tone.ts';

const FILTER_ID = 'light-crest-tone';

/**
 * A plain SVG in a tone. A drawing of one black path takes the colour itself; anything else goes
 * through a filter that keeps alpha and replaces colour, which every viewer with filters shows.
 */
export function tonedSvg(svg: string, tone: ToneChoice): string {
  const colour = toneColour(tone);
  if (!colour) return svg;
  const hex = hexOf(colour);
  if (ONE_PATH.test(svg)) return svg.replace('<path fill="#000"', `<path fill="${hex}"`);
  const rows = colour.map((value) => `0 0 0 0 ${Number((value / 255).toFixed(6))}`);
  const filter =
    `<filter id="${FILTER_ID}" color-interpolation-filters="sRGB" x="0" y="0" width="1" height="1">` +
    `<feColorMatrix values="${rows.join(' ')} 0 0 0 1 0"/></filter>`;
  const opened = svg.replace(
    /<svg\b[^>]*>/,
    (root) => `${root}<defs>${filter}</defs><g filter="url(#${FILTER_ID})">`,
  );
  const end = opened.lastIndexOf('</svg>');
  return `${opened.slice(0, end)}</g>${opened.slice(end)}`;
}

/** The path of an SVG that is one black path and nothing else, as lifts and pens make them. */
export function ownPath(svg: string): string | null {
  return ONE_PATH.test(svg) ? (/<path fill="#000" d="([^"]*)"/.exec(svg)?.[1] ?? null) : null;
}

/** What a lift or a pen drawing is written as. */
const ONE_PATH =
  /^<svg [^>]*>(<metadata[^>]*>[^<]*<\/metadata>)?<path fill="#000" d="[^"]*"\/><\/svg>$/;

/** Raster artwork inside of a plain SVG. @param png base64 */
export function pictureSvg(png: string, width: number, height: number): string {
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" ` +
    `width="${width}" height="${height}">` +
    `<image width="${width}" height="${height}" href="data:image/png;base64,${png}"/></svg>`
  );
}
