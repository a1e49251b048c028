import type { Design } from '../contract/design.ts';
import { linesOf } from '../lettering/words.ts';
import type { DrawContext } from './context.ts';

/** Signs of the words that a design says for which its fonts have no letter: a box is drawn for each. */
export function missingSigns({ layers }: Design, { face, words }: DrawContext): string[] {
  const signs = layers.flatMap((layer) => {
    if (layer.kind !== 'lettering' || layer.hidden) return [];
    const { lettering } = layer;
    return face(lettering.font)?.missing(linesOf(lettering, words).join('')) ?? [];
  });
  return [...new Set(signs)];
}
