/**
 * The five photos of a batch on which a rule goes wrong first: the most extreme shapes, and the
 * most extreme grounds under the mark where it lies now.
 */

export const HARD_KINDS = ['widest', 'tallest', 'brightest', 'darkest', 'busiest'] as const;
export type HardKind = (typeof HARD_KINDS)[number];

/** What of a photo is compared. */
export interface HardFacts {
  readonly id: number;
  /** Width by height. */
  readonly aspect: number;
  /** Ground under the mark: mean L* and standard deviation of L*. */
  readonly lightness: number;
  readonly bustle: number;
}

export interface HardPhoto {
  readonly kind: HardKind;
  readonly id: number;
  /** Put there by hand, so it stays wherever the mark goes. */
  readonly isPinned: boolean;
}

const EXTREME: Readonly<Record<HardKind, (facts: HardFacts) => number>> = Object.freeze({
  widest: ({ aspect }) => aspect,
  tallest: ({ aspect }) => -aspect,
  brightest: ({ lightness }) => lightness,
  darkest: ({ lightness }) => -lightness,
  busiest: ({ bustle }) => bustle,
});

/**
 * Each photo stands for one thing only; a small batch has fewer than five.
 *
 * @param pinned ids of photos that take a place whatever they are like
 */
export function hardPhotos(
  all: readonly HardFacts[],
  pinned: Partial<Readonly<Record<HardKind, number>>> = {},
): HardPhoto[] {
  const ids = new Set(all.map(({ id }) => id));
  const taken = new Set(Object.values(pinned).filter((id) => ids.has(id)));
  const found: HardPhoto[] = [];
  for (const kind of HARD_KINDS) {
    const pin = pinned[kind];
    if (pin !== undefined && ids.has(pin)) {
      found.push({ kind, id: pin, isPinned: true });
      continue;
    }
    let best: HardFacts | null = null;
    for (const facts of all) {
      if (taken.has(facts.id)) continue;
      if (!best || EXTREME[kind](facts) > EXTREME[kind](best)) best = facts;
    }
    if (!best) continue;
    taken.add(best.id);
    found.push({ kind, id: best.id, isPinned: false });
  }
  return found;
}
