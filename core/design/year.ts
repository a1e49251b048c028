import type { Design } from '../contract/design.ts';
import { followsYear } from '../lettering/words.ts';

/** Whether any of its words follow the year of the photo. */
export function designFollowsYear({ layers }: Design): boolean {
  return layers.some((layer) => layer.kind === 'lettering' && followsYear(layer.lettering));
}
