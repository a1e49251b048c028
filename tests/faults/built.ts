import { ensureNodeBuilt } from '../../scripts/house.mjs';

/** Schedules start servers and processes by the dozen: they are started as they are built. */
export default function setup(): void {
  process.env.LIGHT_CREST_BUILT = ensureNodeBuilt();
}
