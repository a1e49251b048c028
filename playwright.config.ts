import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tests/helpers/chromium.ts';

const TEST_TIMEOUT_MS = 180_000;
/** Uploads, imports and exports are awaited; a machine of two cores that is busy needs a while. */
const EXPECT_TIMEOUT_MS = 30_000;

export default defineConfig({
  testDir: 'tests/e2e',
  timeout: TEST_TIMEOUT_MS,
  expect: { timeout: EXPECT_TIMEOUT_MS },
  workers: 1,
  reporter: 'list',
  use: { viewport: { width: 1280, height: 800 }, launchOptions: CHROMIUM },
});
