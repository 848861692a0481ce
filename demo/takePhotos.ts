import { existsSync } from 'node:fs';
import path from 'node:path';
import { photograph } from './camera/photograph';
import { saveDesk, savePhotograph } from './camera/savePhotograph';
import { demoScenes, scoredScenes } from './sceneSets';

/*
 * Takes simulated photos into a folder, skipping those already there.
 * node dist/takePhotos.mjs FOLDER demo PART OF
 * node dist/takePhotos.mjs FOLDER scored FIRST_SEED COUNT SIZE_SHARE PART OF
 * node dist/takePhotos.mjs FOLDER desks FIRST_SEED COUNT SIZE_SHARE PART OF   the same scenes without their page, where no other sheet lies on the desk; no truth
 */
const [folder, set, ...rest] = process.argv.slice(2);
if (folder === undefined || (set !== 'demo' && set !== 'scored' && set !== 'desks')) throw new Error('usage: takePhotos FOLDER demo|scored|desks …');
const numbers = rest.map(Number);
const scored = set === 'demo' ? demoScenes() : scoredScenes(numbers[0]!, numbers[1]!, numbers[2]!);
const scenes = set === 'desks' ? scored.filter(({ scene }) => scene.desk !== 'clutter' && !scene.underSheet) : scored;
const [part, of] = numbers.slice(-2) as [number, number];
for (const [i, { name, scene }] of scenes.entries()) {
  if (i % of !== part || existsSync(path.join(folder, set === 'desks' ? `${name}.jpg` : `${name}.truth.json`))) continue;
  if (set === 'desks') await saveDesk(scene, folder, name);
  else await savePhotograph(photograph(scene), folder, name, { flat: false });
  console.log(`  photographed ${name}`);
}
