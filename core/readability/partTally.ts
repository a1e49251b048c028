import type { Box } from '../placement/geometry.ts';

/** What reads of each part of a mark. */
export class PartTally {
  private readonly ink: Uint32Array;
  private readonly reads: Uint32Array;
  /** Left, top, right and bottom of each, px. */
  private readonly edges: Int32Array;

  constructor(count: number) {
    this.ink = new Uint32Array(count + 1);
    this.reads = new Uint32Array(count + 1);
    this.edges = new Int32Array((count + 1) * 4);
  }

  add(part: number, isRead: boolean, x: number, y: number): void {
    const { edges } = this;
    const at = part * 4;
    if (this.ink[part]++ === 0) edges.set([x, y, x, y], at);
    if (isRead) this.reads[part]++;
    if (x < edges[at]) edges[at] = x;
    if (x > edges[at + 2]) edges[at + 2] = x;
    if (y > edges[at + 3]) edges[at + 3] = y;
  }

  weakest(): { readonly share: number; readonly box: Box } | null {
    let weakest: { share: number; box: Box } | null = null;
    this.ink.forEach((ink, part) => {
      const share = this.reads[part] / ink;
      if (ink === 0 || (weakest && share >= weakest.share)) return;
      const [left, top, right, bottom] = this.edges.subarray(part * 4, part * 4 + 4);
      const box = { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
      weakest = { share, box };
    });
    return weakest;
  }
}
