/** The mask with every marked pixel spread to a square around it. */
export function grown(mask: Uint8Array, width: number, by: number): Uint8Array<ArrayBuffer> {
  const height = mask.length / width;
  const across = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (!mask[y * width + x]) continue;
      across.fill(1, y * width + Math.max(0, x - by), y * width + Math.min(width, x + by + 1));
    }
  }
  const out = new Uint8Array(mask.length);
  for (let y = 0; y < height; y++) {
    for (let near = Math.max(0, y - by); near <= Math.min(height - 1, y + by); near++) {
      for (let x = 0; x < width; x++) if (across[near * width + x]) out[y * width + x] = 1;
    }
  }
  return out;
}
