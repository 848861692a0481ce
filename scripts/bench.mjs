// npm run bench: takes the scored photos where they are missing, then measures.
import { setup } from './setup.mjs';

/** Other seeds than any the scorer was trained on (20000 and up, 1000 and up). */
const FIRST_SEED = 5000;
const PHOTOS = 72;

await setup({ web: false });
const { ROOT } = await import('./ensureBuilt.mjs');
const { run } = await import('./run.mjs');
process.chdir(ROOT);
const folder = '.cache/bench/square';
console.log(`Taking ${PHOTOS} scored photos where they are missing (about six minutes the first time) …`);
await Promise.all([0, 1].map((part) => run('node', ['dist/takePhotos.mjs', folder, 'scored', String(FIRST_SEED), String(PHOTOS), '1', String(part), '2'])));
await run('node', ['dist/bench.mjs', folder], { show: true });
