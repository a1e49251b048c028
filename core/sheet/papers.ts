import type { Size } from '../placement/geometry.ts';

/** Paper by name, upright, mm: ISO 216 for A and B, photographic prints by their nominal size. */
export const PAPERS = Object.freeze({
  a2: { width: 420, height: 594 },
  a3: { width: 297, height: 420 },
  a4: { width: 210, height: 297 },
  a5: { width: 148, height: 210 },
  a6: { width: 105, height: 148 },
  b3: { width: 353, height: 500 },
  b4: { width: 250, height: 353 },
  b5: { width: 176, height: 250 },
  b6: { width: 125, height: 176 },
  '10x15': { width: 100, height: 150 },
  '13x18': { width: 130, height: 180 },
  '20x30': { width: 200, height: 300 },
  '4x6in': { width: 101.6, height: 152.4 },
  '5x7in': { width: 127, height: 177.8 },
  '8x10in': { width: 203.2, height: 254 },
  letter: { width: 215.9, height: 279.4 },
} as const satisfies Record<string, Size>);

export const PAPER_NAMES = Object.keys(PAPERS) as (keyof typeof PAPERS)[];
