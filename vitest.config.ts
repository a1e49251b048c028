import { availableParallelism } from 'node:os';
import vue from '@vitejs/plugin-vue';
import icons from 'unplugin-icons/vite';
import { defineConfig } from 'vitest/config';

/** A machine that others use as well may be five times as slow as this one. */
const INTEGRATION_TIMEOUT_MS = 300_000;
/** What takes two seconds here may take ten on a busy machine; no test is there to hold a speed. */
const UNIT_TIMEOUT_MS = 90_000;

/**
 * A machine that stands still for seconds can break even what waits long enough. What fails each
 * time is broken; what fails once is listed as retried.
 */
const RETRIES = 2;

/** Each works all of the time; of two cores the runner would leave one idle, for who looks at it. */
const UNIT_FILES_AT_ONCE = Math.max(2, availableParallelism() - 1);
/** Each starts servers and imaging processes of its own, and waits a third of the time. */
const INTEGRATION_FILES_AT_ONCE = 2;

/** Tests that start processes by the dozen start them as they are built, once for all. */
const BUILT = 'tests/helpers/buildOnce.ts';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['core/**/*.test.ts', 'server/**/*.test.ts', 'cli/**/*.test.ts'],
          testTimeout: UNIT_TIMEOUT_MS,
          retry: RETRIES,
          maxWorkers: UNIT_FILES_AT_ONCE,
        },
      },
      {
        plugins: [vue(), icons({ compiler: 'vue3' })],
        test: {
          name: 'page',
          include: ['web/**/*.test.ts'],
          testTimeout: UNIT_TIMEOUT_MS,
          retry: RETRIES,
          maxWorkers: UNIT_FILES_AT_ONCE,
          environment: 'happy-dom',
          setupFiles: ['web/testing/setup.ts'],
        },
      },
      {
        test: {
          name: 'faults',
          include: ['tests/faults/**/*.test.ts'],
          globalSetup: [BUILT],
          fileParallelism: false,
          retry: 1,
        },
      },
      {
        test: {
          name: 'integration',
          include: ['tests/integration/**/*.test.ts'],
          globalSetup: [BUILT],
          testTimeout: INTEGRATION_TIMEOUT_MS,
          retry: 1,
          hookTimeout: INTEGRATION_TIMEOUT_MS,
          maxWorkers: INTEGRATION_FILES_AT_ONCE,
        },
      },
    ],
  },
});
