import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
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

/** The script of an installed package's command. Node runs it the same on every system; a shell's link to it would not. */
export function scriptOf(packageName, command) {
  const folder = path.join(ROOT, 'node_modules', packageName);
  const { bin } = JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'));
  return path.join(folder, typeof bin === 'string' ? bin : bin[command]);
}

/** Runs an installed package's command to its end, as `run` does. */
export const runPackage = (packageName, command, args, options) =>
  run(process.execPath, [scriptOf(packageName, command), ...args], options);
