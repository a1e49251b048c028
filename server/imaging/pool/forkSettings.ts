import { createRequire } from 'node:module';
import { pathToFileURL } from 'node:url';

/**
 * How a process takes memory for pixels from the system. Huge pages save a fifth of the time of an
 * export at full size, which otherwise goes into tens of thousands of page faults; few arenas keep
 * what is freed from lying about. C libraries other than glibc ignore both.
 */
const MEMORY_SETTINGS = {
  GLIBC_TUNABLES: 'glibc.malloc.hugetlb=1',
  MALLOC_ARENA_MAX: '2',
};

/** For small pictures, where clearing huge pages costs more than it saves. */
const SMALL_MEMORY_SETTINGS = { MALLOC_ARENA_MAX: '2' };

/** What a process mostly holds: whole photos, or small pictures. */
export type ProcessWork = 'photos' | 'small pictures';

/**
 * Pixels lie outside of the heap, and little else is made while they are worked on: a small young
 * generation costs no time and saves some 50 MB a process. A heap beyond the second figure comes of
 * a file made to be large in memory; the process then ends by itself and is replaced.
 */
const HEAP_SETTINGS = ['--max-semi-space-size=2', '--max-old-space-size=1536'];

/**
 * Whole photos count for when the old generation is looked through. Begun as small as by default, that is
 * done for each of them, and costs a seventh of an export at 2,048 px. Begun larger, it is done too seldom
 * for the pixels, which are asked for to be freed between photos.
 */
const PHOTO_HEAP_SETTINGS = [...HEAP_SETTINGS, '--initial-old-space-size=128', '--expose-gc'];

/** Options of `child_process.fork` for a module of ours, however this process was started. */
export function forkSettings(modulePath: string, work: ProcessWork) {
  const isSource = modulePath.endsWith('.ts');
  const loader = isSource
    ? ['--import', pathToFileURL(createRequire(import.meta.url).resolve('tsx')).href]
    : [];
  return {
    execArgv: [...(work === 'photos' ? PHOTO_HEAP_SETTINGS : HEAP_SETTINGS), ...loader],
    // Raw pixels travel as typed arrays; JSON would take seconds.
    serialization: 'advanced',
    env: {
      ...process.env,
      ...(work === 'photos' ? MEMORY_SETTINGS : SMALL_MEMORY_SETTINGS),
    },
  };
}
