import { realpath } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';

/** All links followed, as far as the path exists. */
export async function realPath(path: string): Promise<string> {
  const real = await realpath(path).catch(() => null);
  if (real !== null) return real;
  const parent = dirname(path);
  return parent === path ? path : join(await realPath(parent), basename(path));
}
