/** The mask with every marked pixel spread to a square around it. */
export function grown(mask: Uint8Array, width: number, by: number): Uint8Array<ArrayBuffer> {
  const height = mask.length / width;
  const across = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < width; x++) {
      if (!mask[row + x]) continue;
      // Pixels hang together: a whole run is spread at once.
      let end = x + 1;
      while (end < width && mask[row + end]) end++;
      across.fill(1, row + Math.max(0, x - by), row + Math.min(width, end + by));
      x = end;
    }
  }
  const out = new Uint8Array(across);
  for (let down = 1; down <= by; down++) {
    const shift = down * width;
    for (let at = shift; at < out.length; at++) {
      if (across[at - shift]) out[at] = 1;
      if (across[at]) out[at - shift] = 1;
    }
  }
  return out;
}

/** The mask without what lies within `by` pixels of its rim; the picture's own edge is no rim. */
export function shrunk(mask: Uint8Array, width: number, by: number): Uint8Array<ArrayBuffer> {
  const out = grown(
    mask.map((flag) => 1 - flag),
    width,
    by,
  );
  for (let at = 0; at < out.length; at++) out[at] = 1 - out[at];
  return out;
}
