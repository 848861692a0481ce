import { chromium, defineConfig } from '@playwright/test';
import { needProgram, thisMachine } from './scripts/programs';

const PORT = 4399;
export const BASE_URL = `http://localhost:${PORT}`;

/** A browser that has been at this address before: the first visit has a test of its own. */
export const beenAt = (address: string) => ({
  cookies: [],
  origins: [
    {
      origin: new URL(address).origin,
      localStorage: [
        { name: 'fotoplan-settings', value: JSON.stringify({ state: { welcomeSeen: true }, version: 1 }) },
      ],
    },
  ],
});

/** The installed Chromium, as every bench starts it, and the tests with what follows. */
export const BROWSER = {
  executablePath: needProgram('chromium', thisMachine, [chromium.executablePath()]),
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
};

/** A page of a test lives for seconds: the slowest of the engine's compilers would take more time than it saves. */
export const TEST_BROWSER = { ...BROWSER, args: [...BROWSER.args, '--js-flags=--no-turbofan'] };

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/smallerPhotos.ts',
  // on two slow cores a page takes its time; no test waits longer than it must
  timeout: 180_000,
  expect: { timeout: 30_000 },
  workers: 2,
  fullyParallel: false,
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  outputDir: 'test-results/artifacts',
  use: {
    baseURL: BASE_URL,
    acceptDownloads: true,
    storageState: beenAt(BASE_URL),
    // only the tests without a network want what it keeps
    serviceWorkers: 'block',
    screenshot: 'only-on-failure',
    launchOptions: TEST_BROWSER,
  },
  projects: [
    { name: 'phone', use: { viewport: { width: 390, height: 844 }, hasTouch: true }, testIgnore: /wide/ },
    { name: 'wide', use: { viewport: { width: 1280, height: 800 } }, testMatch: /wide/ },
  ],
  webServer: {
    command: 'node dist/server.mjs',
    port: PORT,
    env: { PORT: String(PORT), DATA_DIR: '.cache/e2e-data', DEMO: '1', LOG_LEVEL: 'warn' },
    reuseExistingServer: false,
  },
});
