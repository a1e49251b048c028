import { existsSync } from 'node:fs';
import { join } from 'node:path';

/**
 * A module as it was built before the tests, which starts in a fifth of the time that its source
 * takes; undefined where nothing was built.
 */
export function builtModule(name: 'imagingProcess' | 'server' | 'cli'): string | undefined {
  const folder = process.env.LIGHT_CREST_BUILT;
  if (!folder) return undefined;
  const path = join(folder, `${name}.js`);
  if (!existsSync(path)) throw new Error(`Expected a built module at ${path}, found none.`);
  return path;
}
