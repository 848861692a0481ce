// npm test: sets up, then types, lint, rooms, unit and browser tests. The last line counts them.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { spawnSync } from 'node:child_process';
import { setup } from './setup.mjs';

await setup({ web: false });
const { ROOT, ensureWebBuild } = await import('./ensureBuilt.mjs');
const { run, scriptOf, runPackage } = await import('./run.mjs');
const { seedDemo } = await import('./seedDemo.mjs');
process.chdir(ROOT);

const { NEEDED_PROGRAMS, OTHER_BROWSERS, findProgram, installCommands, pathWith, thisMachine } =
  await import('../dist/programs.mjs');

/** Runs what installs these. @returns what went wrong, or null */
function install(programs) {
  console.log(`Installing ${programs.join(', ')} for the tests …`);
  for (const command of installCommands(programs, thisMachine)) {
    const [program, ...args] = command.split(' ');
    const { status, stderr } = spawnSync(program, args, {
      encoding: 'utf8',
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
    if (status !== 0) return stderr.slice(-800);
  }
  return null;
}

/** Installs what the tests judge with, where this machine lets it; else says how. What only some tests need may be missing. */
async function installPrograms() {
  const { chromium } = await import('@playwright/test');
  const missingOf = (programs) =>
    programs.filter((program) => findProgram(program, thisMachine, [chromium.executablePath()]) === null);
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  const needed = missingOf(NEEDED_PROGRAMS);
  if (needed.length > 0) {
    const sudo = process.platform === 'linux' && !mayInstall ? 'sudo ' : '';
    const problem = mayInstall ? install(needed) : '';
    if (problem !== null) {
      console.error(`${problem}\nThe tests need ${needed.join(', ')}. Install with:`);
      for (const command of installCommands(needed, thisMachine)) console.error(`  ${sudo}${command}`);
      process.exit(1);
    }
  }
  const others = missingOf(OTHER_BROWSERS);
  const problem = others.length > 0 && mayInstall ? install(others) : null;
  if (problem !== null) console.error(problem);
  const left = missingOf(OTHER_BROWSERS);
  if (left.length > 0) console.log(`Not installed: ${left.join(', ')}. Tests in these browsers are skipped.`);
}

let passed = 0;
let failed = 0;

/** A check that counts as one test. */
async function check(name, script, args) {
  try {
    await run(process.execPath, [script, ...args]);
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
  await runPackage('jest', 'jest', ['--json', `--outputFile=${report}`, '--silent'], { show: true }).catch(
    () => undefined,
  );
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
  await runPackage('@playwright/test', 'playwright', ['test'], { show: true }).catch(() => undefined);
  if (!existsSync(report)) return void failed++;
  const { stats, errors } = JSON.parse(readFileSync(report, 'utf8'));
  passed += stats.expected + stats.flaky;
  failed += stats.unexpected + errors.length;
}

await installPrograms();
process.env.PATH = pathWith(NEEDED_PROGRAMS);
mkdirSync('test-results', { recursive: true });
// these use one core each
await Promise.all([
  check('types', scriptOf('typescript', 'tsc'), ['--noEmit', '-p', '.']),
  check('lint', scriptOf('eslint', 'eslint'), ['.', '--max-warnings', '0']),
]);
await Promise.all([
  check('rooms', scriptOf('dependency-cruiser', 'depcruise'), [
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
  ])
    .then(() => check('format', scriptOf('prettier', 'prettier'), ['--check', '.']))
    .then(() => check('kernels', 'scripts/buildKernels.mjs', ['--check'])),
  seed(),
]);
await ensureWebBuild();
await jest();
await browser();
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
