import type { Box } from '../../placement/geometry.ts';
import { failure, success, type Result } from '../../result.ts';
import { SVG_LIMITS, TEXT_ELEMENTS } from './allowed.ts';
import { isLocalReference, outsideReference, safeCss } from './css.ts';
import { naturalBox } from './naturalBox.ts';
import { parseSvg, walk, writeSvg, type SvgElement } from './tree.ts';

/** SVG artwork that is safe to draw, store and hand out. */
export interface CleanSvg {
  /** Plain SVG whose root has a viewBox and a size. */
  readonly svg: string;
  /** The area it shows, in its own units. */
  readonly box: Box;
  /** Elements and handlers that were left out. */
  readonly dropped: readonly string[];
  /** Fonts named by live text, which may be missing where the mark is drawn. */
  readonly textFonts: readonly string[];
}

const EMBEDDED_PICTURE = /^\s*data:image\/(png|jpeg|jpg|gif|webp)\s*;\s*base64\s*,/i;
const UNNAMED_FONT = 'a font that is not named';

/**
 * Makes SVG artwork as design programs save it safe (contract, section 5): an allowlist of elements,
 * references only inside the file, limits on what is costly to draw.
 */
export function sanitiseSvg(text: string): Result<CleanSvg> {
  const parsed = parseSvg(text);
  if (!parsed.ok) return parsed;
  const { root, dropped } = parsed.value;
  const box = naturalBox(root);
  const problem =
    cleanStyles(root) ??
    checkReferences(root) ??
    checkFilters(root, Math.max(box.width, box.height)) ??
    checkUses(root);
  if (problem) return failure(`The SVG cannot be used: ${problem}.`);
  // A root's own place on a page means nothing here, and the drawing gives it another.
  root.attributes.delete('x');
  root.attributes.delete('y');
  root.attributes.set('viewBox', `${box.x} ${box.y} ${box.width} ${box.height}`);
  root.attributes.set('width', String(box.width));
  root.attributes.set('height', String(box.height));
  return success({
    svg: writeSvg(root),
    box,
    dropped: [...dropped],
    textFonts: textFonts(root),
  });
}

function cleanStyles(root: SvgElement): string | null {
  let length = 0;
  for (const element of walk(root)) {
    if (element.name === 'style') {
      const text = element.children.filter((child) => typeof child === 'string').join('');
      length += text.length;
      if (length > SVG_LIMITS.styles) {
        return `its styles are longer than ${SVG_LIMITS.styles.toLocaleString('en')} characters`;
      }
      const css = safeCss(text);
      if (!css.ok) return css.reason;
      element.children.splice(0, element.children.length, css.value);
    }
    for (const [name, value] of element.attributes) {
      if (name !== 'style' && name !== 'filter' && !/url\(/i.test(value)) continue;
      const css = safeCss(name === 'filter' ? `filter:${value}` : value);
      if (!css.ok) return css.reason;
      if (name === 'style') element.attributes.set(name, css.value);
    }
  }
  return null;
}

function checkReferences(root: SvgElement): string | null {
  for (const element of walk(root)) {
    const target = element.attributes.get('href');
    if (target === undefined) continue;
    if (element.name === 'a') element.attributes.delete('href');
    else if (element.name === 'image' && EMBEDDED_PICTURE.test(target)) continue;
    else if (!isLocalReference(target)) return outsideReference(target);
  }
  return null;
}

/** Attributes that give the reach of a filter, in units of the artwork unless told otherwise. */
const RADIUS_ATTRIBUTES = ['stdDeviation', 'radius'] as const;

function checkFilters(root: SvgElement, longerSide: number): string | null {
  let count = 0;
  for (const filter of walk(root)) {
    if (filter.name !== 'filter') continue;
    const relative = filter.attributes.get('primitiveUnits') === 'objectBoundingBox';
    const limit = SVG_LIMITS.filterRadiusShare * (relative ? 1 : longerSide);
    for (const primitive of walk(filter)) {
      if (++count > SVG_LIMITS.filterElements) {
        return `it has more than ${SVG_LIMITS.filterElements} filter elements`;
      }
      for (const name of RADIUS_ATTRIBUTES) {
        const radii = (primitive.attributes.get(name) ?? '0')
          .trim()
          .split(/[\s,]+/)
          .map(Number);
        if (radii.some((radius) => !(radius <= limit))) {
          return `a filter reaches further than ${limit.toPrecision(3)} units (${name})`;
        }
      }
    }
  }
  return null;
}

/** `use` draws what it refers to again, nested ones multiply: what is drawn in the end is counted. */
function checkUses(root: SvgElement): string | null {
  const byId = new Map<string, SvgElement>();
  for (const element of walk(root)) {
    const id = element.attributes.get('id');
    if (id !== undefined && !byId.has(id)) byId.set(id, element);
  }
  const counted = new Map<SvgElement, { drawn: number; depth: number }>();
  const open = new Set<SvgElement>();
  let problem: string | null = null;

  const count = (element: SvgElement): { drawn: number; depth: number } => {
    const known = counted.get(element);
    if (known) return known;
    if (open.has(element)) {
      problem ??= 'its use elements refer to each other in a circle';
      return { drawn: 1, depth: 0 };
    }
    open.add(element);
    let drawn = 1;
    let depth = 0;
    const add = (part: { drawn: number; depth: number }, deeper: number): void => {
      drawn += part.drawn;
      depth = Math.max(depth, part.depth + deeper);
    };
    for (const child of element.children) if (typeof child !== 'string') add(count(child), 0);
    if (element.name === 'use') {
      const target = byId.get((element.attributes.get('href') ?? '').trim().slice(1));
      if (target) add(count(target), 1);
    }
    open.delete(element);
    const result = { drawn, depth };
    counted.set(element, result);
    return result;
  };

  const total = count(root);
  if (problem) return problem;
  if (total.depth > SVG_LIMITS.useDepth) {
    return `its use elements are nested more than ${SVG_LIMITS.useDepth} deep`;
  }
  if (total.drawn > SVG_LIMITS.drawnElements) {
    return `its use elements draw more than ${SVG_LIMITS.drawnElements.toLocaleString('en')} elements`;
  }
  return null;
}

function textFonts(root: SvgElement): string[] {
  const fonts = new Set<string>();
  for (const element of walk(root)) {
    if (!TEXT_ELEMENTS.has(element.name)) continue;
    if (!element.children.some((child) => typeof child === 'string' && child.trim())) continue;
    const own = element.attributes.get('font-family') ?? fontOf(element.attributes.get('style'));
    fonts.add(own?.replace(/['"]/g, '').trim() || UNNAMED_FONT);
  }
  return [...fonts];
}

function fontOf(style: string | undefined): string | undefined {
  return /font-family\s*:\s*([^;]+)/i.exec(style ?? '')?.[1];
}
