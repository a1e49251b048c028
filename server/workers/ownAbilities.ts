import { hasJpegTools } from '../imaging/untouched/jpegTools.ts';
import type { Ability } from './crewNames.ts';

/** What this machine can do of what not every one can. */
export function ownAbilities(): Ability[] {
  return hasJpegTools() ? ['heic', 'untouched'] : ['heic'];
}
