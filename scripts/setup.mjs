// Makes a fresh clone ready: checks Node, installs from the lock file, builds what runs in Node, takes the demo's photos.
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { spawnSync } from 'node:child_process';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const LEAST_NODE = [20, 19];

function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major > LEAST_NODE[0] || (major === LEAST_NODE[0] && minor >= LEAST_NODE[1])) return;
  console.error(
    `Fotoplan needs Node ${LEAST_NODE.join('.')} or newer; this is ${process.versions.node}. Install a newer Node, then run this again.`,
  );
  process.exit(1);
}

/** Installs when the lock file has changed since the last time. */
function installPackages() {
  const stampFile = path.join(ROOT, 'node_modules', '.fotoplan-lock');
  const stamp = createHash('sha256')
    .update(readFileSync(path.join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  console.log('Installing packages (two to four minutes the first time) …');
  // under `npm run` npm says where it is itself; its name alone is a shell's business on some systems
  const npm = process.env.npm_execpath;
  const args = ['ci', '--no-audit', '--no-fund', '--loglevel=error'];
  const { status } = spawnSync(
    npm === undefined ? 'npm' : process.execPath,
    npm === undefined ? args : [npm, ...args],
    {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit'],
      shell: npm === undefined && process.platform === 'win32',
    },
  );
  if (status !== 0) {
    console.error(
      'The packages could not be installed. Check the connection to the npm registry, then run this again.',
    );
    process.exit(1);
  }
  writeFileSync(stampFile, stamp);
}

/** @param web - also build the app that the browser loads */
export async function setup({ web }) {
  checkNode();
  installPackages();
  const { ensureNodeBuild, ensureWebBuild } = await import('./ensureBuilt.mjs');
  await ensureNodeBuild();
  if (web) await ensureWebBuild();
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await setup({ web: false });
  console.log('Ready. Try: bin/fotoplan --help');
}
