// npm run bench [-- square|light|live|dim …]: takes the scored photos where they are missing, then measures.
import { setup } from './setup.mjs';

/** Full-size photos, and camera frames of 640 px; other seeds than any that was trained on (1000, 20000, 61000 and up). */
const SETS = [
  { folder: 'square', firstSeed: 5000, photos: 72, sizeShare: 1 },
  { folder: 'live', firstSeed: 62000, photos: 100, sizeShare: 0.2 },
];

await setup({ web: true });
const { ROOT } = await import('./ensureBuilt.mjs');
const { run } = await import('./run.mjs');
process.chdir(ROOT);
const folder = '.cache/bench';
console.log('Taking the scored photos where they are missing (about eight minutes the first time) …');
for (const { folder: set, firstSeed, photos, sizeShare } of SETS) {
  await Promise.all(
    [0, 1].map((part) =>
      run('node', [
        'dist/takePhotos.mjs',
        `${folder}/${set}`,
        'scored',
        String(firstSeed),
        String(photos),
        String(sizeShare),
        String(part),
        '2',
      ]),
    ),
  );
}
await run('node', ['dist/bench.mjs', folder, ...process.argv.slice(2)], { show: true });
