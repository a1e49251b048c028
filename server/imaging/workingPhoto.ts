import { readFile } from 'node:fs/promises';
import type { Canvas, Pixels } from '#core/pixels';
import type { Box, Size } from '#core/placement/geometry';
import { WORKING_LONG_SIDE_PX } from '#core/readability/measure';
import { success, type Result } from '#core/result';
import { jpegLibrary } from './jpeg/jpegLibrary.ts';
import { decodePhoto } from './photo/decode.ts';
import type { ProbedPhoto } from './photo/probe.ts';
import { sharp, sharpOf } from './sharp.ts';

/** A photo at the size at which readability is measured, or the part of it that is looked at. */
export interface WorkingPhoto {
  readonly pixels: Pixels;
  /** Of the whole photo. */
  readonly size: Size;
  /** Of the pixels in the photo. */
  readonly left: number;
  readonly top: number;
}

/** The size at which readability is measured: that of the output, where it is smaller. */
export function workingSize(frame: Size): Size & { readonly factor: number } {
  const factor = Math.min(1, WORKING_LONG_SIDE_PX / Math.max(frame.width, frame.height));
  return {
    factor,
    width: Math.max(1, Math.round(frame.width * factor)),
    height: Math.max(1, Math.round(frame.height * factor)),
  };
}

/** From the photo itself. */
export async function workingPhoto(
  path: string,
  probed: ProbedPhoto,
  frame: Size,
): Promise<Result<WorkingPhoto>> {
  const { width, height } = workingSize(frame);
  const wish = { frame: { width, height }, flatten: probed.hasAlpha };
  const decoded = await decodePhoto(path, probed, wish);
  return decoded.ok ? success(whole(decoded.value)) : decoded;
}

/** Round what is looked at, px of the working size: as far as the filter that makes it smaller reaches. */
const FILTER_REACH_PX = 4;
/** So far beyond that an edge is looked for that lies on a whole pixel of the output, px of the working size. */
const EDGE_SEARCH_PX = 16;
/** Of a photo, above which all of it is made smaller, once for all marks. */
const MOST_CUT = 0.5;

/**
 * From the pixels of an output that are there already; transparent parts on white.
 *
 * @returns the copy that holds the part looked at, whole px of the working size
 */
export function workingCopies(photo: Canvas): (seen: Box | null) => Promise<WorkingPhoto> {
  const size = workingSize(photo);
  let whole: Promise<WorkingPhoto> | null = null;
  return (seen) => {
    const isPart = seen && seen.width * seen.height < MOST_CUT * size.width * size.height;
    if (isPart && !whole && size.factor < 1) return workingPart(photo, seen);
    return (whole ??= workingCopy(photo));
  };
}

async function workingCopy(photo: Canvas): Promise<WorkingPhoto> {
  const { width, height, factor } = workingSize(photo);
  if (factor === 1 && photo.channels === 3 && photo.depth === 8) return whole(photo);
  return whole(await smaller(opaque(photo), { width, height }));
}

async function workingPart(photo: Canvas, seen: Box): Promise<WorkingPhoto> {
  const size = workingSize(photo);
  const across = cutAlong(seen.x, seen.width, size.width, photo.width);
  const down = cutAlong(seen.y, seen.height, size.height, photo.height);
  const part = opaque(photo).extract({
    ...{ left: across.from, width: across.length },
    ...{ top: down.from, height: down.length },
  });
  const pixels = await smaller(part, { width: across.workingPx, height: down.workingPx });
  const { width, height } = size;
  return { pixels, size: { width, height }, left: across.start, top: down.start };
}

/** Where to cut along one side, so that a part made smaller by itself lies as it does in the whole. */
function cutAlong(seenFrom: number, seenPx: number, workingSide: number, side: number) {
  const times = side / workingSide;
  const besideWhole = (edge: number): number => Math.abs(edge * times - Math.round(edge * times));
  const outward = (edge: number, step: 1 | -1): number => {
    let best = edge + step * FILTER_REACH_PX;
    for (let beyond = 1; beyond <= EDGE_SEARCH_PX; beyond++) {
      const other = edge + step * (FILTER_REACH_PX + beyond);
      if (besideWhole(other) < besideWhole(best)) best = other;
    }
    return Math.min(workingSide, Math.max(0, best));
  };
  const start = outward(seenFrom, -1);
  const end = outward(seenFrom + seenPx, 1);
  const from = Math.round(start * times);
  return { start, workingPx: end - start, from, length: Math.round(end * times) - from };
}

function opaque(canvas: Canvas): Pipeline {
  const pipeline = sharpOf(canvas);
  return canvas.channels === 4 ? pipeline.flatten(WHITE) : pipeline;
}

function smaller(pipeline: Pipeline, { width, height }: Size): Promise<Pixels> {
  return pixelsOf(pipeline.resize(width, height, { fit: 'fill' }).toColourspace('srgb'));
}

/** A proxy with its size. */
export interface Proxy extends Size {
  readonly path: string;
}

/** A photo at the working size of a frame. */
export type ProxyCopies = (frame: Size) => Promise<WorkingPhoto>;

/**
 * From the proxy that was made of a photo, which has the working size of all large outputs. It is decoded once
 * for all marks.
 */
export function proxyCopies(proxy: Proxy): ProxyCopies {
  const copies = new Map<string, Promise<WorkingPhoto>>();
  return (frame) => {
    const { width, height } = workingSize(frame);
    const key = `${width} ${height}`;
    const copy = copies.get(key) ?? proxyAt(proxy, { width, height }).then(whole);
    copies.set(key, copy);
    return copy;
  };
}

async function proxyAt(proxy: Proxy, { width, height }: Size): Promise<Pixels> {
  if (proxy.width !== width || proxy.height !== height) {
    return pixelsOf(sharp(proxy.path).resize(width, height, { fit: 'fill' }));
  }
  const samples = jpegLibrary()?.decodeNow(await readFile(proxy.path), { width, height });
  return samples ? { ...samples, channels: 3 } : pixelsOf(sharp(proxy.path));
}

const WHITE = { background: '#ffffff' };

type Pipeline = ReturnType<typeof sharp>;

async function pixelsOf(pipeline: Pipeline): Promise<Pixels> {
  const { data, info } = await pipeline.raw().toBuffer({ resolveWithObject: true });
  const pixels = new Uint8ClampedArray(data.buffer, data.byteOffset, data.byteLength);
  return { data: pixels, width: info.width, height: info.height, channels: 3 };
}

function whole(pixels: Pixels): WorkingPhoto {
  return { pixels, size: { width: pixels.width, height: pixels.height }, left: 0, top: 0 };
}

/** A copy of part of a photo; the box is whole pixels within it. */
export function cutOut({ data, width, channels }: Pixels, box: Box): Pixels {
  const row = box.width * channels;
  const part = new Uint8ClampedArray(row * box.height);
  for (let y = 0; y < box.height; y++) {
    const from = ((box.y + y) * width + box.x) * channels;
    part.set(data.subarray(from, from + row), y * row);
  }
  return { data: part, width: box.width, height: box.height, channels };
}
