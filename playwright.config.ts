import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tests/helpers/chromium.ts';

const TEST_TIMEOUT_MS = 180_000;
/** Uploads, imports and exports are awaited; a machine of two cores that is busy needs a while. */
const EXPECT_TIMEOUT_MS = 30_000;

const ACTION_TIMEOUT_MS = 60_000;

export default defineConfig({
  testDir: 'tests/e2e',
  timeout: TEST_TIMEOUT_MS,
  expect: { timeout: EXPECT_TIMEOUT_MS },
  workers: 1,
  retries: 0,
  reporter: 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    // What hangs says where, instead of waiting for the test's own end.
    actionTimeout: ACTION_TIMEOUT_MS,
    navigationTimeout: ACTION_TIMEOUT_MS,
  },
});
