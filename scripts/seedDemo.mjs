// Photographs the demo's pages where they are missing and fills the database with them.
import { existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './ensureBuilt.mjs';
import { run } from './run.mjs';

/** Each set with its folder and how many photos it has. */
const SETS = [
  { set: 'demo', folder: 'practice-photos', photos: 6 },
  { set: 'table', folder: 'practice-table', photos: 6 },
];

/** Photographs the sets that are missing. @param dataFolder - where the practice photos and the practice table live */
export async function photographDemo(dataFolder) {
  for (const { set, folder, photos } of SETS) {
    const at = path.join(dataFolder, folder);
    if (existsSync(at) && readdirSync(at).filter((f) => f.endsWith('.jpg')).length >= photos) continue;
    console.log(
      set === 'demo' ? 'Photographing the demo pages (about half a minute) …' : 'Laying the practice table …',
    );
    await Promise.all(
      [0, 1].map((part) =>
        run('node', [path.join(ROOT, 'dist/takePhotos.mjs'), at, set, String(part), '2'], { show: true }),
      ),
    );
  }
}

/** @param dataFolder - where the SQLite file, the practice photos and the practice table live */
export async function seedDemo(dataFolder) {
  await photographDemo(dataFolder);
  await run('node', [path.join(ROOT, 'dist/seed.mjs')], { env: { DATA_DIR: dataFolder } });
}
