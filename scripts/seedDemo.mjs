// Photographs the demo's pages where they are missing and fills the database with them.
import { existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { ROOT } from './ensureBuilt.mjs';
import { run } from './run.mjs';

const DEMO_PHOTOS = 6;

/** @param dataFolder - where the SQLite file and the practice photos live */
export async function seedDemo(dataFolder) {
  const photos = path.join(dataFolder, 'practice-photos');
  const taken = existsSync(photos) ? readdirSync(photos).filter((f) => f.endsWith('.truth.json')).length : 0;
  if (taken < DEMO_PHOTOS) {
    console.log('Photographing the demo pages (about half a minute) …');
    await Promise.all([0, 1].map((part) => run('node', [path.join(ROOT, 'dist/takePhotos.mjs'), photos, 'demo', String(part), '2'], { show: true })));
  }
  await run('node', [path.join(ROOT, 'dist/seed.mjs')], { env: { DATA_DIR: dataFolder } });
}
