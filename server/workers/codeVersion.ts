import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { BUILT_FOLDER, IS_SOURCE, PROJECT_FOLDER } from '../projectFolder.ts';

/**
 * Tells one version of the program from another: the folder of a build is named by the sources it was
 * made of. Server and worker have to be the same, so that outputs do not depend on who made them.
 */
export function codeVersion(): string {
  if (!IS_SOURCE) return basename(BUILT_FOLDER);
  const lock = readFileSync(join(PROJECT_FOLDER, 'package-lock.json'));
  return `source-${createHash('sha256').update(lock).digest('hex').slice(0, 12)}`;
}
