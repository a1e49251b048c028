import { join } from 'node:path';
import { Imaging } from '#server/imaging/pool/imaging';
import { ensureNodeBuilt } from '../scripts/house.mjs';

/** Imaging in processes as people run them: from sources, what is measured are names that are looked up. */
export function builtImaging(): Imaging {
  return new Imaging(join(ensureNodeBuilt(), 'imagingProcess.js'));
}
