// Makes a fresh clone ready: checks Node, installs from the lock file, builds what runs in Node, takes the demo's photos.
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { spawn } from 'node:child_process';

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

/** Runs npm to its end and answers whether it went well. */
function npm(args) {
  // under `npm run` npm says where it is itself; its name alone is a shell's business on some systems
  const script = process.env.npm_execpath;
  return new Promise((resolve) => {
    const child = spawn(
      script === undefined ? 'npm' : process.execPath,
      script === undefined ? args : [script, ...args],
      {
        cwd: ROOT,
        stdio: ['ignore', 'inherit', 'inherit'],
        shell: script === undefined && process.platform === 'win32',
      },
    );
    child.once('error', () => resolve(false));
    child.once('close', (code) => resolve(code === 0));
  });
}

function giveUp(sentence) {
  console.error(sentence);
  process.exit(1);
}

/**
 * Installs when the lock file has changed since the last time.
 * @returns the compiling of SQLite, which takes more than a minute where there is no ready one: what does not need it goes on beside
 */
async function installPackages() {
  const stampFile = path.join(ROOT, 'node_modules', '.fotoplan-lock');
  const stamp = createHash('sha256')
    .update(readFileSync(path.join(ROOT, 'package-lock.json')))
    .digest('hex');
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return { compiled: Promise.resolve() };
  console.log('Installing packages (about a minute the first time) …');
  if (!(await npm(['ci', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error'])))
    giveUp('The packages could not be installed. Check the connection to the npm registry, then run this again.');
  // the only package here whose install script is needed
  const compiled = npm(['rebuild', 'better-sqlite3', '--loglevel=error']).then((well) => {
    if (!well) giveUp('SQLite could not be compiled. Install a C++ compiler, make and Python, then run this again.');
    writeFileSync(stampFile, stamp);
  });
  return { compiled };
}

/**
 * @param web - also build the app that the browser loads
 * @param meanwhile - what needs the Node build but no database
 */
export async function setup({ web, meanwhile = () => undefined }) {
  checkNode();
  const { compiled } = await installPackages();
  const { ensureCatalogues, ensureNodeBuild, ensureWebBuild } = await import('./ensureBuilt.mjs');
  await ensureCatalogues();
  await ensureNodeBuild();
  if (web) await ensureWebBuild();
  await meanwhile();
  await compiled;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await setup({ web: false });
  console.log('Ready. Try: bin/fotoplan --help');
}
