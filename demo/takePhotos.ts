import { existsSync } from 'node:fs';
import path from 'node:path';
import { photograph } from './camera/photograph';
import { saveDesk, savePhotograph } from './camera/savePhotograph';
import { demoScenes, scoredScenes, tableScenes, type NamedScene } from './sceneSets';

/*
 * Takes simulated photos into a folder, skipping those already there.
 * node dist/takePhotos.mjs FOLDER demo PART OF
 * node dist/takePhotos.mjs FOLDER table PART OF   the practice table's pages, and its bare desk
 * node dist/takePhotos.mjs FOLDER scored FIRST_SEED COUNT SIZE_SHARE PART OF
 * node dist/takePhotos.mjs FOLDER desks FIRST_SEED COUNT SIZE_SHARE PART OF   the same scenes without their page, where no other sheet lies on the desk; no truth
 */
const SETS: Readonly<Record<string, (numbers: readonly number[]) => NamedScene[]>> = {
  demo: demoScenes,
  table: tableScenes,
  scored: (n) => scoredScenes(n[0]!, n[1]!, n[2]!),
  desks: (n) => scoredScenes(n[0]!, n[1]!, n[2]!).filter(({ scene }) => scene.desk !== 'clutter' && !scene.underSheet),
};
const [folder, set = '', ...rest] = process.argv.slice(2);
const scenesOf = SETS[set];
if (folder === undefined || scenesOf === undefined)
  throw new Error(`usage: takePhotos FOLDER ${Object.keys(SETS).join('|')} …`);
const numbers = rest.map(Number);
const scenes = scenesOf(numbers);
const [part, of] = numbers.slice(-2) as [number, number];
for (const [i, { name, scene }] of scenes.entries()) {
  if (i % of !== part || existsSync(path.join(folder, set === 'desks' ? `${name}.jpg` : `${name}.truth.json`)))
    continue;
  if (set === 'desks') await saveDesk(scene, folder, name);
  else await savePhotograph(photograph(scene), folder, name, { flat: false });
  console.log(`  photographed ${name}`);
}
if (set === 'table' && part === 0) await saveDesk(scenes[0]!.scene, folder, '0-desk');
