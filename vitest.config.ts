import vue from '@vitejs/plugin-vue';
import icons from 'unplugin-icons/vite';
import { defineConfig } from 'vitest/config';

const INTEGRATION_TIMEOUT_MS = 120_000;
/** What takes two seconds here may take ten on a busy machine; no test is there to hold a speed. */
const UNIT_TIMEOUT_MS = 30_000;

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'unit',
          include: ['core/**/*.test.ts', 'server/**/*.test.ts', 'cli/**/*.test.ts'],
          testTimeout: UNIT_TIMEOUT_MS,
        },
      },
      {
        plugins: [vue(), icons({ compiler: 'vue3' })],
        test: {
          name: 'page',
          include: ['web/**/*.test.ts'],
          testTimeout: UNIT_TIMEOUT_MS,
          environment: 'happy-dom',
          setupFiles: ['web/testing/setup.ts'],
        },
      },
      {
        test: {
          name: 'faults',
          include: ['tests/faults/**/*.test.ts'],
          globalSetup: ['tests/faults/built.ts'],
          fileParallelism: false,
        },
      },
      {
        test: {
          name: 'integration',
          include: ['tests/integration/**/*.test.ts'],
          testTimeout: INTEGRATION_TIMEOUT_MS,
          hookTimeout: INTEGRATION_TIMEOUT_MS,
          // Each starts servers and imaging processes of its own; the machine has two cores.
          fileParallelism: false,
        },
      },
    ],
  },
});
