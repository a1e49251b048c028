import type { RasterSpec } from '../../compose/rasterPlan.ts';
import type { Box } from '../../placement/geometry.ts';

/**
 * The SVG that draws a mark on a canvas of whole pixels, at its exact size, place and angle.
 *
 * @param artwork a sanitised SVG, or an `image` element, that shows `natural` in its own units
 * @param ink the ink box in the same units: it becomes the mark's width and height
 */
export function drawingSvg(artwork: string, natural: Box, ink: Box, spec: RasterSpec): string {
  const turn =
    `translate(${spec.centreX} ${spec.centreY}) rotate(${spec.rotation}) ` +
    `translate(${-spec.markWidth / 2} ${-spec.markHeight / 2})`;
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${spec.width}" height="${spec.height}">` +
    `<g transform="${turn}">` +
    `<svg width="${spec.markWidth}" height="${spec.markHeight}" overflow="visible" ` +
    `preserveAspectRatio="none" viewBox="${ink.x} ${ink.y} ${ink.width} ${ink.height}">` +
    placed(artwork, natural) +
    '</svg></g></svg>'
  );
}

/** Puts the artwork's root where its own units say; it keeps its own viewBox and clips to it. */
function placed(artwork: string, natural: Box): string {
  return artwork.replace(/^<(svg|image)\b/, `<$1 x="${natural.x}" y="${natural.y}"`);
}
