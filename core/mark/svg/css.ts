import { failure, success, type Result } from '../../result.ts';

/**
 * CSS of an SVG mark, in style elements, style attributes and presentation attributes. Classes and
 * plain declarations are kept; what loads something is dropped or refused.
 */

const COMMENT = /\/\*[\s\S]*?\*\//g;
/** Rules that load something or only speak of other renderers; they are dropped whole. */
const AT_RULE_WITH_BLOCK = /@(?:font-face|page|counter-style)\b[^{]*\{[^}]*\}/gi;
const AT_RULE_LINE = /@(?:import|charset|namespace)\b[^;]*(?:;|$)/gi;
const URL = /url\(\s*(['"]?)([^'")]*)\1\s*\)/gi;
/** Escapes can spell any word in a way the other tests would not see. */
const ESCAPE = /\\/;
const FILTER = /(?:^|[;{\s])(?:-\w+-)?(?:backdrop-)?filter\s*:\s*([^;}]*)/gi;
const ACTIVE = /expression\s*\(|javascript:|-moz-binding|behavior\s*:/i;

/** The text without what loads something, or why it cannot be kept. */
export function safeCss(css: string): Result<string> {
  const text = css.replace(COMMENT, '').replace(AT_RULE_WITH_BLOCK, '').replace(AT_RULE_LINE, '');
  if (ESCAPE.test(text)) return failure('its styles hold escaped characters');
  if (ACTIVE.test(text)) return failure('its styles hold something that could run');
  if (/@(?!media\b)/.test(text)) return failure('its styles hold a rule that is not understood');
  for (const [, , target] of text.matchAll(URL)) {
    if (!isLocalReference(target)) return failure(outsideReference(target));
  }
  if (/url\(/i.test(text.replace(URL, ''))) return failure('its styles hold a broken url()');
  for (const [, value] of text.matchAll(FILTER)) {
    if (!/^(none|url\(\s*['"]?#[^)]*\))$/i.test(value.replace(/!important/, '').trim())) {
      return failure(
        'its styles hold a filter written as a function; use a filter element instead',
      );
    }
  }
  return success(text);
}

export function isLocalReference(target: string): boolean {
  return /^#[^\s]+$/.test(target.trim());
}

export function outsideReference(target: string): string {
  const shown = target.trim().slice(0, 80);
  return `it refers to something outside the file ("${shown}"); embed it or remove it`;
}
