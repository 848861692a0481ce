import { randomInt } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import type { FaultyServer } from './faultyServer';
import { Worker } from './worker';

/**
 * Kills the server while three students work.
 * @returns what did not hold
 */
export async function serverKills(server: FaultyServer, kills: number, paceMs: number): Promise<readonly string[]> {
  const workers = [0, 1, 2].map((n) => new Worker(n, server.url, paceMs));
  const working = workers.map((worker) => worker.work());
  for (let k = 0; k < kills; k++) {
    await pause(300 + randomInt(2 * paceMs - 600));
    await server.killAndStart();
  }
  for (const worker of workers) worker.stopped = true;
  await Promise.all(working);
  const missing = (await Promise.all(workers.map((worker) => worker.missing()))).flat();
  const sum = (of: (worker: Worker) => number): number => workers.reduce((total, worker) => total + of(worker), 0);
  console.log(
    `server killed ${kills} times: ${sum((w) => w.originals.size)} originals, ${sum((w) => w.turns.size)} recipes, ${sum((w) => w.receipts.length)} receipts acknowledged, ${sum((w) => w.repeats)} tries repeated; missing ${missing.length}`,
  );
  for (const each of missing.slice(0, 10)) console.log(`  ${each}`);
  return missing.length > 0 ? [`${missing.length} things that were acknowledged are missing`] : [];
}
