import { SaxesParser } from 'saxes';
import { failure, success, type Result } from '../../result.ts';
import { ALLOWED_ELEMENTS, SVG_LIMITS, SVG_NS, XLINK_NS, XML_NS } from './allowed.ts';

/** An SVG as a tree of what is allowed in it, names without prefixes. */
export interface SvgElement {
  readonly name: string;
  readonly attributes: Map<string, string>;
  readonly children: (SvgElement | string)[];
}

export interface ParsedSvg {
  readonly root: SvgElement;
  /** What was left out, as names a person can look for in the file. */
  readonly dropped: ReadonlySet<string>;
}

/** Attributes of other namespaces are the notes of design programs; these two are SVG's own use. */
const KEPT_FOREIGN = new Map([
  [XLINK_NS, 'href'],
  [XML_NS, 'space'],
]);

/** Reads an SVG; comments, processing instructions, foreign elements and handlers do not get in. */
export function parseSvg(text: string): Result<ParsedSvg> {
  if (text.length > SVG_LIMITS.bytes) {
    return failure(`Expected an SVG of at most ${SVG_LIMITS.bytes / 1e6} MB.`);
  }
  const parser = new SaxesParser({ xmlns: true });
  const dropped = new Set<string>();
  const stack: SvgElement[] = [];
  let root: SvgElement | null = null;
  let problem: string | null = null;
  let elements = 0;
  /** Depth inside an element that is left out with all it holds. */
  let skipping = 0;
  let depth = 0;

  parser.on('error', (error) => {
    problem ??= `it is not well-formed XML (${error.message})`;
  });
  parser.on('doctype', (doctype) => {
    if (declaresSomething(doctype)) {
      problem ??= 'its DOCTYPE declares entities; save it as plain SVG without them';
    }
  });
  parser.on('opentag', (tag) => {
    if (++depth > SVG_LIMITS.depth) {
      // Thrown, so that the parser stops: what it keeps of each level makes it slow with many.
      problem ??= `its elements are nested more than ${SVG_LIMITS.depth} deep`;
      throw new Error(problem);
    }
    if (skipping > 0 || tag.uri !== SVG_NS || !ALLOWED_ELEMENTS.has(tag.local)) {
      if (skipping === 0) dropped.add(tag.name);
      skipping++;
      return;
    }
    elements++;
    if (elements > SVG_LIMITS.elements) {
      problem ??= `it has more than ${SVG_LIMITS.elements.toLocaleString('en')} elements`;
      return;
    }
    const element: SvgElement = {
      name: tag.local,
      attributes: keptAttributes(tag.attributes, dropped),
      children: [],
    };
    if (stack.length > 0) stack[stack.length - 1].children.push(element);
    else root = element;
    stack.push(element);
  });
  parser.on('closetag', () => {
    depth--;
    if (skipping > 0) skipping--;
    else stack.pop();
  });
  const addText = (text: string): void => {
    if (skipping === 0 && stack.length > 0) stack[stack.length - 1].children.push(text);
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  try {
    // In portions, so that a file that cannot be used is not read to its end.
    for (let at = 0; at < text.length && !problem; at += PORTION) {
      parser.write(text.slice(at, at + PORTION));
    }
    if (!problem) parser.close();
  } catch (error) {
    problem ??= `it is not well-formed XML (${(error as Error).message})`;
  }
  if (problem) return failure(`The SVG cannot be used: ${problem}.`);
  const found = root as SvgElement | null;
  if (!found || found.name !== 'svg') return failure('Expected an SVG, found another kind of XML.');
  return success({ root: found, dropped });
}

/** Characters read at once. */
const PORTION = 65_536;

/** Whether a DOCTYPE has declarations of its own, as entities are. */
function declaresSomething(doctype: string): boolean {
  if (/<!ENTITY/i.test(doctype)) return true;
  const open = doctype.indexOf('[');
  const close = doctype.lastIndexOf(']');
  return open >= 0 && close > open && doctype.slice(open + 1, close).trim() !== '';
}

interface NamespacedAttribute {
  readonly name: string;
  readonly uri: string;
  readonly local: string;
  readonly value: string;
}

function keptAttributes(
  attributes: Record<string, NamespacedAttribute>,
  dropped: Set<string>,
): Map<string, string> {
  const kept = new Map<string, string>();
  for (const { name, uri, local, value } of Object.values(attributes)) {
    if (name === 'xmlns' || name.startsWith('xmlns:')) continue;
    if (/^on/i.test(local)) dropped.add(local);
    else if (uri === '') kept.set(local, value);
    else if (KEPT_FOREIGN.get(uri) === local) {
      const plain = uri === XML_NS ? `xml:${local}` : local;
      if (!kept.has(plain)) kept.set(plain, value);
    }
  }
  return kept;
}

/** The tree as text again; `href` is written the old way too, for renderers that know only that. */
export function writeSvg(element: SvgElement, isRoot = true): string {
  const spaces = isRoot ? ` xmlns="${SVG_NS}" xmlns:xlink="${XLINK_NS}"` : '';
  const attributes = [...element.attributes]
    .map(([name, value]) => ` ${name === 'href' ? 'xlink:href' : name}="${escapeXml(value)}"`)
    .join('');
  const inside = element.children
    .map((child) => (typeof child === 'string' ? escapeXml(child) : writeSvg(child, false)))
    .join('');
  return inside
    ? `<${element.name}${spaces}${attributes}>${inside}</${element.name}>`
    : `<${element.name}${spaces}${attributes}/>`;
}

export function escapeXml(text: string): string {
  return text
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;');
}

export function* walk(element: SvgElement): Generator<SvgElement> {
  yield element;
  for (const child of element.children) if (typeof child !== 'string') yield* walk(child);
}
