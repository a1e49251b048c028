import type { Design } from '../contract/design.ts';
import { tokensOf, WORD_TOKENS, type WordToken } from '../lettering/words.ts';

const known = new WeakMap<Design, readonly WordToken[]>();

/** The words of the photo that any of a design's lettering takes. */
export function designTokens(design: Design): readonly WordToken[] {
  let tokens = known.get(design);
  if (!tokens) {
    const found = new Set(
      design.layers.flatMap((layer) =>
        layer.kind === 'lettering' ? tokensOf(layer.lettering) : [],
      ),
    );
    known.set(design, (tokens = WORD_TOKENS.filter((token) => found.has(token))));
  }
  return tokens;
}
