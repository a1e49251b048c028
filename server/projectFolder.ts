import { existsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

/** Whether this is run from its sources, and not as it was built. */
export const IS_SOURCE = import.meta.url.endsWith('.ts');

/** The checkout, whether its sources are run or what was built of them. */
export const PROJECT_FOLDER = folderWithPackage(dirname(fileURLToPath(import.meta.url)));

/** Where what was built lies, the parts side by side. */
export const BUILT_FOLDER = dirname(fileURLToPath(import.meta.url));

function folderWithPackage(from: string): string {
  if (existsSync(join(from, 'package.json'))) return from;
  const parent = dirname(from);
  if (parent === from) throw new Error('Expected a package.json above this file, found none.');
  return folderWithPackage(parent);
}
