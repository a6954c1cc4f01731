import { defineConfig } from '@playwright/test';
import { browserLaunch } from './scripts/lib/browser.mjs';

export default defineConfig({
  testDir: './e2e',
  // One here; the test command runs two of these at once, each with a lab of its own.
  workers: 1,
  outputDir: process.env.DUSK_PLAYWRIGHT_OUTPUT,
  timeout: 240_000,
  // Long enough for a machine that others use too; a test that passes never waits them out.
  expect: { timeout: 40_000 },
  // No test is tried twice: what fails once is to be mended.
  retries: 0,
  reporter: process.env.DUSK_PLAYWRIGHT_JSON
    ? [['list'], ['json', { outputFile: process.env.DUSK_PLAYWRIGHT_JSON }]]
    : [['list']],
  use: {
    baseURL: process.env.DUSK_ADDRESS,
    viewport: { width: 1280, height: 800 },
    launchOptions: browserLaunch(),
    actionTimeout: 60_000,
  },
});
