// npm run test:e2e [-- playwright's arguments]: builds, fills the test's data where they are missing, and drives the app in Chromium.
import path from 'node:path';
import { setup } from './setup.mjs';

await setup({ web: true });
const { ROOT } = await import('./ensureBuilt.mjs');
const { runPackage } = await import('./run.mjs');
const { seedDemo } = await import('./seedDemo.mjs');
process.chdir(ROOT);
await seedDemo(path.join(ROOT, '.cache', 'e2e-data'));
await runPackage('@playwright/test', 'playwright', ['test', ...process.argv.slice(2)], { show: true }).catch(
  () => (process.exitCode = 1),
);
