import { realpath } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';

/** All links followed, as far as the path exists. */
export async function realPathOf(path: string): Promise<string> {
  const real = await realpath(path).catch(() => null);
  if (real !== null || dirname(path) === path) return real ?? path;
  return join(await realPathOf(dirname(path)), basename(path));
}
