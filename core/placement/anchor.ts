import type { Anchor } from '../contract/preset.ts';

/** Where an anchor holds a mark along one axis. */
export type Hold = 'start' | 'centre' | 'end';

export interface AnchorHolds {
  readonly x: Hold;
  readonly y: Hold;
}

/** The nine anchors by what they hold on each axis, in reading order. */
export const ANCHOR_HOLDS: Readonly<Record<Anchor, AnchorHolds>> = Object.freeze({
  'top-left': { x: 'start', y: 'start' },
  top: { x: 'centre', y: 'start' },
  'top-right': { x: 'end', y: 'start' },
  left: { x: 'start', y: 'centre' },
  centre: { x: 'centre', y: 'centre' },
  right: { x: 'end', y: 'centre' },
  'bottom-left': { x: 'start', y: 'end' },
  bottom: { x: 'centre', y: 'end' },
  'bottom-right': { x: 'end', y: 'end' },
});

export function anchorFor(x: Hold, y: Hold): Anchor {
  for (const [anchor, holds] of Object.entries(ANCHOR_HOLDS)) {
    if (holds.x === x && holds.y === y) return anchor as Anchor;
  }
  throw new Error(`No anchor holds ${x} and ${y}`);
}

/** Start of a box of `length` on an axis of `frameLength`, held by `hold` at `inset` from its edge. */
export function heldAt(hold: Hold, frameLength: number, length: number, inset: number): number {
  switch (hold) {
    case 'start':
      return inset;
    case 'centre':
      return (frameLength - length) / 2;
    case 'end':
      return frameLength - inset - length;
    default:
      throw new Error(`Unknown hold ${hold satisfies never}`);
  }
}
