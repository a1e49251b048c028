import type { Design } from '../contract/design.ts';
import type { ToneChoice } from '../contract/preset.ts';
import { grownBox } from '../path/pathBox.ts';
import type { Box } from '../placement/geometry.ts';
import { failure, success, type Result } from '../result.ts';
import type { DrawContext } from './context.ts';
import { drawDesign } from './draw.ts';
import { measureDesign } from './measure.ts';

/** A composed mark as a picture. */
export interface MarkSvg {
  /** Self-contained SVG that shows `natural`. */
  readonly svg: string;
  /** The ink box, units of the drawing. */
  readonly ink: Box;
  /** Everything drawn: the ink box and what is soft round it. */
  readonly natural: Box;
}

/** Room for smoothed edges, units. */
const MARGIN_UNITS = 2;

/**
 * A design in a tone as one self-contained SVG: paths, strokes with round joins and embedded
 * pictures, no text, no fonts, nothing outside. The only filter is the one that recolours artwork
 * of several colours.
 */
export function markToSvg(design: Design, tone: ToneChoice, context: DrawContext): Result<MarkSvg> {
  const drawn = drawDesign(design, tone, context);
  const boxes = naturalBoxes(design, context);
  if (!boxes) return failure(NOTHING_VISIBLE);
  const { ink, natural } = boxes;
  const layers = drawn.map(
    ({ x, y, svg }) => `<g transform="translate(${tidy(x)} ${tidy(y)})">${svg}</g>`,
  );
  const { x, y, width, height } = natural;
  const svg =
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${x} ${y} ${width} ${height}" ` +
    `width="${width}" height="${height}">${layers.join('')}</svg>`;
  return success({ svg, ink, natural });
}

const NOTHING_VISIBLE = 'Expected a mark with something visible in it, found only empty layers.';

/** The ink box and the area the SVG of a design shows; null where nothing is visible. */
export function naturalBoxes(
  design: Design,
  context: DrawContext,
): Pick<MarkSvg, 'ink' | 'natural'> | null {
  const boxes = measureDesign(design, context);
  if (!boxes) return null;
  const { x, y, width, height } = grownBox(boxes.reach, MARGIN_UNITS);
  const natural = { x: tidy(x), y: tidy(y), width: tidy(width), height: tidy(height) };
  return { ink: boxes.ink, natural };
}

function tidy(value: number): number {
  return Number(value.toFixed(3));
}
