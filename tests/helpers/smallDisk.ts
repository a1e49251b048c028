import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';

/** A disk of a few megabytes, for tests of what happens when it is full. */
export interface SmallDisk {
  readonly grow: (size: string) => void;
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
  return {
    grow: (to) => void execFileSync('mount', ['-o', `remount,size=${to}`, folder]),
    remove: () => void execFileSync('umount', ['-l', folder]),
  };
}
