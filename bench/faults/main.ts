import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { integrityProblem } from '../../server/keeping/backup';
import { browserKills } from './browserKills';
import { FaultyServer } from './faultyServer';
import { fullDisk } from './fullDisk';
import { lostBucket } from './lostBucket';
import { serverKills } from './serverKills';

/*
 * Kills the server and the browser (SIGKILL) at random moments of scripted work, again and again, and then looks whether
 * everything that had been acknowledged is there, hash for hash. Then fills a disk, and takes a bucket away. Only what it started
 * is killed; with anything that did not hold it ends with 1.
 *   node dist/faults.mjs [KILLS] [PHOTO_FOLDER] [MINUTES]
 */

const KILLS = Number(process.argv[2] ?? 100);
const PHOTOS = process.argv[3] ?? '.cache/e2e-data/practice-photos';
/** From one kill to the next, on average; spread over an hour the work in between is spread too. */
const PACE_MS = process.argv[4] === undefined ? 1400 : (Number(process.argv[4]) * 60_000) / KILLS;
const PORT = 4491;

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-faults-'));
const began = Date.now();
const failures: string[] = [];
const server = new FaultyServer(PORT, path.join(folder, 'data'));
await server.start();
failures.push(...(await serverKills(server, Math.ceil(KILLS / 2), PACE_MS)));
failures.push(...(await browserKills(server, Math.floor(KILLS / 2), PACE_MS, folder, PHOTOS)));
await server.stop();
const problems = ['fotoplan', 'bytes'].map((name) => integrityProblem(path.join(server.dataFolder, `${name}.sqlite`)));
console.log(
  `data files: ${problems.map((problem) => problem ?? 'whole').join(', ')}; ${Math.round((Date.now() - began) / 60_000)} minutes`,
);
if (problems.some((problem) => problem !== null)) failures.push('data files are not whole');
const full = await fullDisk(PORT + 1, folder);
if (full === null) console.log('disk filled up: not tried, this machine lets no disk be made');
failures.push(...(full ?? []), ...(await lostBucket(PORT + 2, folder)));
for (const failure of failures) console.log(`FAILED: ${failure}`);
rmSync(folder, { recursive: true, force: true });
process.exitCode = failures.length === 0 ? 0 : 1;
