/** What an SVG mark may hold. Everything that runs, animates or reaches outside is not here. */

export const SVG_NS = 'http://www.w3.org/2000/svg';
export const XLINK_NS = 'http://www.w3.org/1999/xlink';
export const XML_NS = 'http://www.w3.org/XML/1998/namespace';

export const ALLOWED_ELEMENTS: ReadonlySet<string> = new Set([
  ...['svg', 'g', 'defs', 'symbol', 'use', 'switch', 'a', 'title', 'desc', 'style'],
  ...['path', 'rect', 'circle', 'ellipse', 'line', 'polyline', 'polygon', 'image'],
  ...['text', 'tspan', 'textPath'],
  ...['linearGradient', 'radialGradient', 'stop', 'pattern', 'clipPath', 'mask', 'marker'],
  ...['filter', 'feBlend', 'feColorMatrix', 'feComponentTransfer', 'feComposite', 'feDropShadow'],
  ...['feFlood', 'feFuncR', 'feFuncG', 'feFuncB', 'feFuncA', 'feGaussianBlur', 'feMerge'],
  ...['feMergeNode', 'feMorphology', 'feOffset', 'feTile'],
  ...['feDiffuseLighting', 'feSpecularLighting', 'feDistantLight', 'fePointLight', 'feSpotLight'],
]);

/** Elements whose content is only drawn through a reference. */
export const TEXT_ELEMENTS: ReadonlySet<string> = new Set(['text', 'tspan', 'textPath']);

/** Limits that keep a mark drawable within seconds. */
export const SVG_LIMITS = Object.freeze({
  /** Bytes of the file; real logos with a picture inside stay well below. */
  bytes: 10_000_000,
  /** Characters of styles; the longest of design programs have a few thousand. */
  styles: 1_000_000,
  elements: 50_000,
  /** Elements within elements; design programs nest some twenty. */
  depth: 200,
  /** Elements after every `use` is drawn, which multiplies them. */
  drawnElements: 200_000,
  useDepth: 6,
  filterElements: 60,
  /** Blur or morphology radius, as a share of the artwork's longer side. */
  filterRadiusShare: 0.1,
});
