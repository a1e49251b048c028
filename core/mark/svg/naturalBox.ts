import type { Box } from '../../placement/geometry.ts';
import type { SvgElement } from './tree.ts';

/** CSS Values and Units, section 6.2: pixels in an absolute unit. */
const PX_PER_UNIT: Readonly<Record<string, number>> = Object.freeze({
  '': 1,
  px: 1,
  pt: 96 / 72,
  pc: 16,
  in: 96,
  cm: 96 / 2.54,
  mm: 96 / 25.4,
  q: 96 / 101.6,
});

/** What CSS gives a picture without a size. */
const DEFAULT_BOX: Box = Object.freeze({ x: 0, y: 0, width: 300, height: 150 });

/** The area an SVG shows, in its own units: the viewBox, or its width and height. */
export function naturalBox(root: SvgElement): Box {
  const viewBox = (root.attributes.get('viewBox') ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (viewBox.length === 4 && viewBox.every(Number.isFinite) && viewBox[2] > 0 && viewBox[3] > 0) {
    return { x: viewBox[0], y: viewBox[1], width: viewBox[2], height: viewBox[3] };
  }
  const width = lengthPx(root.attributes.get('width'));
  const height = lengthPx(root.attributes.get('height'));
  if (width === null || height === null) return DEFAULT_BOX;
  return { x: 0, y: 0, width, height };
}

function lengthPx(text: string | undefined): number | null {
  const match = /^\s*([+-]?[\d.]+(?:e[+-]?\d+)?)\s*([a-z]*)\s*$/i.exec(text ?? '');
  const factor = match ? PX_PER_UNIT[match[2].toLowerCase()] : undefined;
  const length = match && factor !== undefined ? Number(match[1]) * factor : Number.NaN;
  return length > 0 && Number.isFinite(length) ? length : null;
}
