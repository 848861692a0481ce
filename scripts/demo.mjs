// npm run demo: from a fresh clone to an open address.
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { setup } from './setup.mjs';

process.chdir(fileURLToPath(new URL('..', import.meta.url)));
const dataFolder = path.resolve(process.env.DATA_DIR ?? 'data');
await setup({
  web: true,
  meanwhile: async () => (await import('./seedDemo.mjs')).photographDemo(dataFolder),
});
const { seedDemo } = await import('./seedDemo.mjs');
if (process.argv.includes('--lan')) process.env.LAN = '1';
process.env.DEMO = '1';
process.env.LOG_LEVEL ??= 'warn';
process.env.DATA_DIR = dataFolder;
await seedDemo(dataFolder);
console.log('Practice photos are in', path.join(dataFolder, 'practice-photos'));
await import('../dist/server.mjs');
