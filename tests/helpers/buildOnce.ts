import { ensureNodeBuilt } from '../../scripts/house.mjs';

/** Before tests that start servers and processes: these are started as they are built. */
export default function setup(): void {
  process.env.LIGHT_CREST_BUILT = ensureNodeBuilt();
}
