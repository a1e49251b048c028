import { selectorsOf, withIds, withSelectors } from './css.ts';
import { parseSvg, walk, writeSvg } from './tree.ts';

/**
 * Artwork that shares a document with other artwork: its ids get a name of their own, and its
 * styles reach only what is inside of it.
 *
 * @param svg sanitised
 * @param scope a name unique to the artwork, letters and digits
 */
export function scopedSvg(svg: string, scope: string): string {
  const parsed = parseSvg(svg);
  if (!parsed.ok) return svg;
  const { root } = parsed.value;
  const own = (id: string): string => `${scope}-${id}`;
  const references = (text: string): string =>
    text.replace(/url\(\s*(['"]?)#([^'")\s]+)\1\s*\)/gi, (_, __, id: string) => `url(#${own(id)})`);
  for (const element of walk(root)) {
    for (const [name, value] of element.attributes) {
      if (name === 'id') element.attributes.set(name, own(value));
      else if (name === 'href' && value.trim().startsWith('#')) {
        element.attributes.set(name, `#${own(value.trim().slice(1))}`);
      } else element.attributes.set(name, references(value));
    }
    if (element.name !== 'style') continue;
    const css = element.children.filter((child) => typeof child === 'string').join('');
    element.children.splice(0, element.children.length, scopedCss(references(css), scope, own));
  }
  const classes = root.attributes.get('class');
  root.attributes.set('class', classes ? `${scope} ${classes}` : scope);
  return writeSvg(root);
}

/** Whether the artwork's styles reach only what is inside of it, and its ids carry its own name. */
export function isScoped(svg: string): boolean {
  const parsed = parseSvg(svg);
  if (!parsed.ok) return false;
  const { root } = parsed.value;
  const [scope] = (root.attributes.get('class') ?? '').split(/\s+/);
  if (!SCOPE.test(scope)) return false;
  for (const element of walk(root)) {
    const id = element.attributes.get('id');
    if (id !== undefined && !id.startsWith(`${scope}-`)) return false;
    if (element.name !== 'style') continue;
    const css = element.children.filter((child) => typeof child === 'string').join('');
    if (!selectorsOf(css).every((selector) => isWithin(selector, scope))) return false;
  }
  return true;
}

/** What artwork in layers is named by; a class of a page is named otherwise. */
const SCOPE = /^a[0-9a-f]{8}$/;

function isWithin(selector: string, scope: string): boolean {
  return new RegExp(`^\\.${scope}(?![\\w-])`).test(selector);
}

/** Each selector only holds below the artwork's root, or for the root itself. */
function scopedCss(css: string, scope: string, own: (id: string) => string): string {
  return withSelectors(css, (selector) => {
    const named = withIds(selector, own);
    return `.${scope} ${named},${named.startsWith('.') ? `.${scope}${named}` : `.${scope}`}`;
  });
}
