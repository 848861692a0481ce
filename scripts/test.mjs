// npm test: sets up, then types, lint, rooms, unit and browser tests. The last line counts them.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { spawnSync } from 'node:child_process';
import { setup } from './setup.mjs';

await setup({ web: false });
const { ROOT, ensureWebBuild } = await import('./ensureBuilt.mjs');
const { run } = await import('./run.mjs');
const { seedDemo } = await import('./seedDemo.mjs');
process.chdir(ROOT);

/** Programs from Debian that the tests judge with, and the package each comes in. */
const PROGRAMS = {
  '/usr/bin/chromium': 'chromium',
  '/usr/bin/qpdf': 'qpdf',
  '/usr/bin/pdfimages': 'poppler-utils',
  '/usr/sbin/nginx': 'nginx-light',
};

function installPrograms() {
  const missing = Object.entries(PROGRAMS)
    .filter(([file]) => !existsSync(file))
    .map(([, name]) => name);
  if (missing.length === 0) return;
  const command = `apt-get update && apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) {
    console.error(`The tests need ${missing.join(', ')}. Install with: sudo sh -c '${command}'`);
    process.exit(1);
  }
  console.log(`Installing ${missing.join(', ')} for the tests …`);
  const { status, stderr } = spawnSync('sh', ['-c', command], {
    encoding: 'utf8',
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  });
  if (status !== 0) {
    console.error(`${stderr.slice(-800)}\nInstall by hand: ${command}`);
    process.exit(1);
  }
}

let passed = 0;
let failed = 0;

/** A check that counts as one test. */
async function check(name, program, args) {
  try {
    await run(program, args);
    passed++;
    console.log(`ok    ${name}`);
  } catch (error) {
    failed++;
    console.log(`FAIL  ${name}\n${error.output ?? error.message}`);
  }
}

async function jest() {
  const report = 'test-results/jest.json';
  rmSync(report, { force: true });
  await run('npx', ['jest', '--json', `--outputFile=${report}`, '--silent'], { show: true }).catch(() => undefined);
  if (!existsSync(report)) return void failed++;
  const { numPassedTests, numFailedTests, numRuntimeErrorTestSuites } = JSON.parse(readFileSync(report, 'utf8'));
  passed += numPassedTests;
  failed += numFailedTests + numRuntimeErrorTestSuites;
}

async function seed() {
  const data = path.join(ROOT, '.cache', 'e2e-data');
  for (const name of ['fotoplan', 'office', 'locker', 'post'])
    for (const end of ['', '-wal', '-shm']) rmSync(path.join(data, `${name}.sqlite${end}`), { force: true });
  await seedDemo(data);
}

async function browser() {
  const report = 'test-results/playwright.json';
  rmSync(report, { force: true });
  await run('npx', ['playwright', 'test'], { show: true }).catch(() => undefined);
  if (!existsSync(report)) return void failed++;
  const { stats, errors } = JSON.parse(readFileSync(report, 'utf8'));
  passed += stats.expected + stats.flaky;
  failed += stats.unexpected + errors.length;
}

installPrograms();
mkdirSync('test-results', { recursive: true });
// these use one core each
await Promise.all([
  check('types', 'npx', ['tsc', '--noEmit', '-p', '.']),
  check('lint', 'npx', ['eslint', '.', '--max-warnings', '0']),
]);
await Promise.all([
  check('rooms', 'npx', [
    'depcruise',
    '--config',
    '.dependency-cruiser.cjs',
    'app',
    'src',
    'core',
    'contract',
    'platform',
    'server',
    'cli',
    'demo',
    'bench',
  ]).then(() => check('format', 'npx', ['prettier', '--check', '.'])),
  seed(),
]);
await ensureWebBuild();
await jest();
await browser();
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
