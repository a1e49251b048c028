import { PIXELS_AT_ONCE } from '../imaging/limits.ts';

/** Memory of a worker, in pixels held at once: a photo larger than all of it is made alone. */
export class PixelRoom {
  private held = 0;
  private readonly waiting: (() => void)[] = [];

  constructor(private readonly most = PIXELS_AT_ONCE) {}

  /** Resolves when there is room. @returns to be called when it is free again */
  async take(pixels: number): Promise<() => void> {
    while (this.held > 0 && this.held + pixels > this.most) {
      await new Promise<void>((go) => this.waiting.push(go));
    }
    this.held += pixels;
    return () => {
      this.held -= pixels;
      for (const go of this.waiting.splice(0)) go();
    };
  }
}
