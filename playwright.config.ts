import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tests/helpers/chromium.ts';

const TEST_TIMEOUT_MS = 360_000;
/** Uploads, imports and exports are awaited; a machine of two cores that is busy needs a while. */
const EXPECT_TIMEOUT_MS = 60_000;

const ACTION_TIMEOUT_MS = 90_000;

export default defineConfig({
  testDir: 'tests/e2e',
  globalSetup: './tests/helpers/buildOnce.ts',
  timeout: TEST_TIMEOUT_MS,
  expect: { timeout: EXPECT_TIMEOUT_MS },
  // Each test has a server and folders of its own, and waits more than it works.
  workers: 2,
  // Long files would leave one of them idle in the end.
  fullyParallel: true,
  // What fails each time is broken; what fails once is listed as flaky.
  retries: 1,
  reporter: 'list',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    // What hangs says where, instead of waiting for the test's own end.
    actionTimeout: ACTION_TIMEOUT_MS,
    navigationTimeout: ACTION_TIMEOUT_MS,
  },
});
