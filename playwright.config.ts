import { defineConfig } from '@playwright/test';

const PORT = 4399;

export default defineConfig({
  testDir: 'e2e',
  timeout: 120_000,
  expect: { timeout: 20_000 },
  workers: 2,
  fullyParallel: false,
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  outputDir: 'test-results/artifacts',
  use: {
    baseURL: `http://localhost:${PORT}`,
    acceptDownloads: true,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
  projects: [
    { name: 'phone', use: { viewport: { width: 390, height: 844 }, hasTouch: true }, testIgnore: /wide/ },
    { name: 'wide', use: { viewport: { width: 1280, height: 800 } }, testMatch: /wide/ },
  ],
  webServer: {
    command: 'node dist/server.mjs',
    port: PORT,
    env: { PORT: String(PORT), DATA_DIR: '.cache/e2e-data' },
    reuseExistingServer: false,
  },
});
