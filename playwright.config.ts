import { defineConfig } from '@playwright/test';

const args = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

export default defineConfig({
  testDir: './e2e',
  workers: 1,
  timeout: 90_000,
  expect: { timeout: 10_000 },
  reporter: process.env.DUSK_PLAYWRIGHT_JSON
    ? [['list'], ['json', { outputFile: process.env.DUSK_PLAYWRIGHT_JSON }]]
    : [['list']],
  use: {
    baseURL: process.env.DUSK_ADDRESS,
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: '/usr/bin/chromium', args },
    actionTimeout: 15_000,
  },
});
