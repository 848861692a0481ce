import { existsSync } from 'node:fs';
import path from 'node:path';
import { photograph } from './camera/photograph';
import { savePhotograph } from './camera/savePhotograph';
import { demoScenes, scoredScenes } from './sceneSets';

/*
 * Takes simulated photos into a folder, skipping those already there.
 * node dist/takePhotos.mjs FOLDER demo PART OF
 * node dist/takePhotos.mjs FOLDER scored FIRST_SEED COUNT SIZE_SHARE PART OF
 */
const [folder, set, ...rest] = process.argv.slice(2);
if (folder === undefined || (set !== 'demo' && set !== 'scored')) throw new Error('usage: takePhotos FOLDER demo|scored …');
const numbers = rest.map(Number);
const scenes = set === 'demo' ? demoScenes() : scoredScenes(numbers[0]!, numbers[1]!, numbers[2]!);
const [part, of] = numbers.slice(-2) as [number, number];
for (const [i, { name, scene }] of scenes.entries()) {
  if (i % of !== part || existsSync(path.join(folder, `${name}.truth.json`))) continue;
  await savePhotograph(photograph(scene), folder, name, { flat: false });
  console.log(`  photographed ${name}`);
}
