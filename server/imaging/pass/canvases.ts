import type { Pass } from '#core/delivery/planPasses';
import type { Canvas } from '#core/pixels';
import type { Size } from '#core/placement/geometry';
import { success, type Result } from '#core/result';
import { decodeCanvas } from '../photo/decode.ts';
import type { ProbedPhoto } from '../photo/probe.ts';
import { sharp } from '../sharp.ts';

/**
 * The unmarked pixels of all outputs of a pass, in its order: the first decoded, each other made of
 * one that is larger.
 */
export async function passCanvases(
  path: string,
  probed: ProbedPhoto,
  { frame, isFlat, depth, outputs }: Pass,
): Promise<Result<Canvas[]>> {
  const resizes = frame.width !== probed.size.width || frame.height !== probed.size.height;
  const wish = { frame: resizes ? frame : null, flatten: isFlat, depth };
  const decoded = await decodeCanvas(path, probed, wish);
  if (!decoded.ok) return decoded;
  const canvases: Canvas[] = [decoded.value];
  for (const output of outputs.slice(1)) {
    canvases.push(await sized(canvases[output.from ?? 0], output.frame));
  }
  return success(canvases);
}

/** A copy in another size, or in the same: a mark that is drawn on the one is not on the other. */
async function sized(canvas: Canvas, to: Size): Promise<Canvas> {
  if (canvas.width === to.width && canvas.height === to.height) {
    return canvas.depth === 8
      ? { ...canvas, data: canvas.data.slice() }
      : { ...canvas, data: canvas.data.slice() };
  }
  const { width, height, channels } = canvas;
  const resized = sharp(canvas.data, { raw: { width, height, channels } }).resize(
    ...([to.width, to.height, { fit: 'fill' }] as const),
  );
  if (canvas.depth === 8) {
    const { buffer, byteOffset, byteLength } = await resized.raw().toBuffer();
    return { ...canvas, ...to, data: new Uint8ClampedArray(buffer, byteOffset, byteLength) };
  }
  const deep = resized.pipelineColourspace('rgb16').toColourspace('rgb16').raw({ depth: 'ushort' });
  const { buffer, byteOffset, byteLength } = await deep.toBuffer();
  return { ...canvas, ...to, data: new Uint16Array(buffer, byteOffset, byteLength / 2) };
}
