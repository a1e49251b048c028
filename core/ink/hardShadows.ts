import type { Box, Size } from '../placement/geometry.ts';
import { LINEAR_CHANNELS, type LinearImage } from './linearImage.ts';
import { grown } from './mask.ts';
import { closeField, steepness, type PaperField } from './paperField.ts';

/**
 * Hard shadows: light that falls within a few pixels of the paper's field, which is too coarse to
 * follow it. Round such edges the sheet is looked at larger.
 */

/** Longer side at which the sheet is seen there, px. */
export const CLOSE_LONG_SIDE_PX = 1_440;

/** Light that falls by more than this a pixel of the field (natural logarithm) falls too quickly for it. */
const HARD_STEP = 0.08;
/** So far from an edge the coarse field is wrong, px of it. */
const REACH_PX = 7;
/** The rim of the sheet and of wide ink is no shadow. */
const RIM_PX = 4;
/** Parts are looked at in rows this high, with what surrounds them, px of the large sheet. */
const ROW_PX = 192;
const ROUND_PX = 64;

/** 1 round hard edges of light; null where there are none. */
export function hardEdges(
  { surface, areas }: Pick<PaperField, 'surface' | 'areas'>,
  outside: Uint8Array,
  width: number,
): Uint8Array | null {
  const rim = grown(
    outside.map((flag, at) => flag | areas[at]),
    width,
    RIM_PX,
  );
  const steps = steepness(surface, width);
  const edges = new Uint8Array(surface.length);
  let count = 0;
  for (let at = 0; at < edges.length; at++) {
    if (rim[at] || steps[at] <= HARD_STEP) continue;
    edges[at] = 1;
    count++;
  }
  return count > 0 ? grown(edges, width, REACH_PX) : null;
}

export interface CloseSheet {
  readonly size: Size;
  /** A part of the sheet at that size. */
  readonly part: (box: Box) => LinearImage;
}

/** The field at the size of the large sheet: as it was, but round hard edges. */
export function withHardEdges(
  { field, areas }: PaperField,
  edges: Uint8Array,
  outside: Uint8Array,
  sheet: CloseSheet,
): { readonly field: LinearImage; readonly outside: Uint8Array } {
  const { size } = sheet;
  const near = enlargedMask(edges, field, size);
  const beyond = enlargedMask(outside, field, size);
  const inked = enlargedMask(areas, field, size);
  const whole = enlarged(field, size);
  for (const box of partsOf(near, size)) {
    const found = closeField(
      sheet.part(box),
      cut(beyond, size, box),
      cut(inked, size, box),
      Math.max(size.width, size.height),
    );
    const rows = { from: box.inner.y - box.y, to: box.inner.y + box.inner.height - box.y };
    for (let y = rows.from; y < rows.to; y++) {
      for (let x = 0; x < box.width; x++) {
        const at = (box.y + y) * size.width + box.x + x;
        if (!near[at]) continue;
        const from = (y * box.width + x) * LINEAR_CHANNELS;
        for (let channel = 0; channel < LINEAR_CHANNELS; channel++) {
          whole.data[at * LINEAR_CHANNELS + channel] = found.data[from + channel];
        }
      }
    }
  }
  return { field: whole, outside: beyond };
}

/** Rows of the sheet, each as wide as what is near an edge in it, with what surrounds it. */
function partsOf(near: Uint8Array, { width, height }: Size): (Box & { inner: Box })[] {
  const parts: (Box & { inner: Box })[] = [];
  for (let top = 0; top < height; top += ROW_PX) {
    const bottom = Math.min(height, top + ROW_PX);
    let [left, right] = [width, 0];
    for (let y = top; y < bottom; y++) {
      const first = near.indexOf(1, y * width) - y * width;
      if (first < 0 || first >= width) continue;
      left = Math.min(left, first);
      right = Math.max(right, near.lastIndexOf(1, (y + 1) * width - 1) - y * width + 1);
    }
    if (right <= left) continue;
    const x = Math.max(0, left - ROUND_PX);
    const y = Math.max(0, top - ROUND_PX);
    parts.push({
      ...{ x, y, width: Math.min(width, right + ROUND_PX) - x },
      height: Math.min(height, bottom + ROUND_PX) - y,
      inner: { x: left, y: top, width: right - left, height: bottom - top },
    });
  }
  return parts;
}

function cut(mask: Uint8Array, { width }: Size, box: Box): Uint8Array {
  const out = new Uint8Array(box.width * box.height);
  for (let y = 0; y < box.height; y++) {
    const from = (box.y + y) * width + box.x;
    out.set(mask.subarray(from, from + box.width), y * box.width);
  }
  return out;
}

/** Each pixel as the one it lies in. */
function enlargedMask(mask: Uint8Array, from: Size, to: Size): Uint8Array {
  const out = new Uint8Array(to.width * to.height);
  for (let y = 0, at = 0; y < to.height; y++) {
    const row = Math.floor(((y + 0.5) / to.height) * from.height) * from.width;
    for (let x = 0; x < to.width; x++, at++) {
      out[at] = mask[row + Math.floor(((x + 0.5) / to.width) * from.width)];
    }
  }
  return out;
}

/** Read between the pixels. */
function enlarged(image: LinearImage, to: Size): { data: Float32Array } & Size {
  const { data, width, height } = image;
  const out = new Float32Array(to.width * to.height * LINEAR_CHANNELS);
  const rowLength = width * LINEAR_CHANNELS;
  const held = (at: number, most: number): number => Math.min(Math.max(at, 0), most);
  const row = new Float32Array(rowLength);
  for (let y = 0, index = 0; y < to.height; y++) {
    const atY = held(((y + 0.5) / to.height) * height - 0.5, height - 1);
    const top = Math.floor(atY) * rowLength;
    const below = Math.min(top + rowLength, (height - 1) * rowLength);
    const share = atY - Math.floor(atY);
    for (let at = 0; at < rowLength; at++) {
      row[at] = data[top + at] + (data[below + at] - data[top + at]) * share;
    }
    for (let x = 0; x < to.width; x++) {
      const atX = held(((x + 0.5) / to.width) * width - 0.5, width - 1);
      const left = Math.floor(atX) * LINEAR_CHANNELS;
      const right = Math.min(left + LINEAR_CHANNELS, rowLength - LINEAR_CHANNELS);
      const part = atX - Math.floor(atX);
      for (let channel = 0; channel < LINEAR_CHANNELS; channel++, index++) {
        out[index] = row[left + channel] + (row[right + channel] - row[left + channel]) * part;
      }
    }
  }
  return { data: out, width: to.width, height: to.height };
}
