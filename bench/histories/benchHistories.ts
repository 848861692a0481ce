import { spawn } from 'node:child_process';

const HISTORIES = 5000;
/** Other seeds than npm test plays. */
const FIRST_SEED = 10_001;
const PROCESSES = 2;

/** Plays the histories on both cores. */
export async function benchHistories(): Promise<void> {
  console.log(
    `\n${HISTORIES} histories of two devices and a server, with refusals, proxies, crashes, restarts, closed tabs and clock jumps (about 15 minutes)`,
  );
  const each = HISTORIES / PROCESSES;
  const started = performance.now();
  const codes = await Promise.all(
    Array.from({ length: PROCESSES }, (_, i) => {
      const first = FIRST_SEED + i * each;
      const child = spawn(process.execPath, ['dist/histories.mjs', String(first), String(first + each - 1)], {
        stdio: 'inherit',
      });
      return new Promise<number | null>((resolve) => child.once('exit', resolve));
    }),
  );
  console.log(
    `${codes.every((code) => code === 0) ? 'no page lost, none doubled, all agree' : 'see above'}; ${Math.round((performance.now() - started) / HISTORIES)} ms a history`,
  );
}
