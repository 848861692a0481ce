// npm run bench [-- square|light|live|dim …]: takes the scored photos where they are missing, then measures.
import { readFileSync } from 'node:fs';
import { setup } from './setup.mjs';

/** The photos that are scored: seeds that nothing is trained on. */
const SETS = JSON.parse(readFileSync(new URL('../bench/train/manifest.json', import.meta.url), 'utf8')).scored;

await setup({ web: true });
const { ROOT } = await import('./ensureBuilt.mjs');
const { run } = await import('./run.mjs');
process.chdir(ROOT);
const folder = '.cache/bench';
console.log('Taking the scored photos where they are missing (about ten minutes the first time) …');
for (const { set, firstSeed, lastSeed, sizeShare } of SETS) {
  await Promise.all(
    [0, 1].map((part) =>
      run('node', [
        'dist/takePhotos.mjs',
        `${folder}/${set}`,
        'scored',
        String(firstSeed),
        String(lastSeed - firstSeed + 1),
        String(sizeShare),
        String(part),
        '2',
      ]),
    ),
  );
}
await run('node', ['dist/bench.mjs', folder, ...process.argv.slice(2)], { show: true });
