import { spawn } from 'node:child_process';
import { ROOT } from './ensureBuilt.mjs';

/** Runs a program to its end; its output is shown only when it fails, unless `show` is set. */
export function run(program, args, { env = {}, show = false } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, {
      cwd: ROOT,
      env: { ...process.env, ...env },
      stdio: show ? 'inherit' : ['ignore', 'pipe', 'pipe'],
    });
    let output = '';
    child.stdout?.on('data', (part) => (output += part));
    child.stderr?.on('data', (part) => (output += part));
    child.once('error', reject);
    child.once('close', (code) => {
      if (code === 0) return resolve(output);
      reject(Object.assign(new Error(`${program} ${args.join(' ')} ended with ${code}`), { output }));
    });
  });
}
