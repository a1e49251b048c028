import { createHash } from 'node:crypto';

/** Digits that tell one artwork's styles and ids from all others of a mark. */
const SCOPE_DIGITS = 8;

/** The name by which the styles and ids of a layer's artwork are told from all others. */
export function scopeOf(svg: string): string {
  return `a${createHash('sha256').update(svg).digest('hex').slice(0, SCOPE_DIGITS)}`;
}
