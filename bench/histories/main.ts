import 'fake-indexeddb/auto';
import 'reflect-metadata';
import { playHistory } from './history';

/* Plays histories of some seeds and prints what went wrong: node dist/histories.mjs FIRST LAST */

const [first, last] = process.argv.slice(2).map(Number) as [number, number];
let wrong = 0;
for (let seed = first; seed <= last; seed++) {
  if ((seed - first) % 500 === 499) console.log(`… ${seed}`);
  const problem = await playHistory(seed).catch((error: unknown) => `broke: ${String(error)}`);
  if (problem === null) continue;
  wrong++;
  console.log(`history ${seed}: ${problem}`);
}
console.log(`${last - first + 1 - wrong} right, ${wrong} wrong`);
process.exit(wrong === 0 ? 0 : 1);
