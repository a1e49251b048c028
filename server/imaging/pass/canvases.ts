import type { Pass } from '#core/delivery/planPasses';
import type { Canvas } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import { giveRoomBack } from '../jpeg/sampleRoom.ts';
import { decodeCanvas } from '../photo/decode.ts';
import type { ProbedPhoto } from '../photo/probe.ts';
import { sharpOf } from '../sharp.ts';

/**
 * The unmarked pixels of the outputs of a pass: the first decoded, each other made of one that is larger
 * when it is asked for. Asked for small to large, few are held at once, however many outputs there are:
 * those that others are made of, and the one that is asked for.
 */
export class PassCanvases {
  private readonly held = new Map<number, Canvas>();

  private constructor(
    private readonly pass: Pass,
    private readonly first: Canvas,
  ) {
    this.held.set(0, first);
  }

  static async decoded(
    path: string,
    probed: ProbedPhoto,
    pass: Pass,
  ): Promise<Result<PassCanvases>> {
    const { frame, isFlat, depth, space } = pass;
    const resizes = frame.width !== probed.size.width || frame.height !== probed.size.height;
    const wish = { frame: resizes ? frame : null, flatten: isFlat, depth, space };
    const decoded = await decodeCanvas(path, probed, wish);
    return decoded.ok ? success(new PassCanvases(pass, decoded.value)) : decoded;
  }

  /** Given away: nothing is made of it any more, so that it may be drawn on. @param at place in the pass */
  async take(at: number): Promise<Canvas> {
    const canvas = await this.at(at);
    this.held.delete(at);
    return canvas;
  }

  /** Makes one that is asked for after what it is made of. */
  async make(at: number): Promise<void> {
    this.held.set(at, await this.at(at));
  }

  /** When all outputs are made: the next photo may be decoded into the same memory. */
  release(): void {
    this.held.clear();
    giveRoomBack(this.first.data);
  }

  private async at(at: number): Promise<Canvas> {
    const held = this.held.get(at);
    if (held) return held;
    const { frame, from } = this.pass.outputs[at];
    const source = await this.at(from ?? 0);
    this.held.set(from ?? 0, source);
    return sized(source, frame);
  }
}

/** A copy in another size, or in the same: a mark that is drawn on the one is not on the other. */
async function sized(canvas: Canvas, to: Size): Promise<Canvas> {
  if (canvas.width === to.width && canvas.height === to.height) {
    return canvas.depth === 8
      ? { ...canvas, data: canvas.data.slice() }
      : { ...canvas, data: canvas.data.slice() };
  }
  const resized = sharpOf(canvas).resize(to.width, to.height, { fit: 'fill' });
  if (canvas.depth === 8) {
    const { buffer, byteOffset, byteLength } = await resized.raw().toBuffer();
    return { ...canvas, ...to, data: new Uint8ClampedArray(buffer, byteOffset, byteLength) };
  }
  const deep = resized.pipelineColourspace('rgb16').toColourspace('rgb16').raw({ depth: 'ushort' });
  const { buffer, byteOffset, byteLength } = await deep.toBuffer();
  return { ...canvas, ...to, data: new Uint16Array(buffer, byteOffset, byteLength / 2) };
}
