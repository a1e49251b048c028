import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';

/** A disk of a few megabytes, for tests of what happens when it is full. */
export interface SmallDisk {
  readonly remove: () => void;
}

/** @returns null where none can be had, which is said in the output and not passed over */
export function smallDisk(folder: string, size: string): SmallDisk | null {
  mkdirSync(folder, { recursive: true });
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${size}`, 'tmpfs', folder], {
      stdio: 'ignore',
    });
  } catch {
    process.stderr.write('NOT TESTED: a full disk, since only root may mount a small one here.\n');
    return null;
  }
  return { remove: () => execFileSync('umount', ['-l', folder]) };
}
