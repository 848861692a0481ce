// npm run demo: from a fresh clone to an open address.
import path from 'node:path';
import { setup } from './setup.mjs';

await setup({ web: true });
const { ROOT } = await import('./ensureBuilt.mjs');
const { seedDemo } = await import('./seedDemo.mjs');
process.chdir(ROOT);
if (process.argv.includes('--lan')) process.env.LAN = '1';
process.env.DEMO = '1';
process.env.LOG_LEVEL ??= 'warn';
process.env.DATA_DIR ??= path.join(ROOT, 'data');
await seedDemo(process.env.DATA_DIR);
console.log('Practice photos are in', path.join(process.env.DATA_DIR, 'practice-photos'));
await import('../dist/server.mjs');
