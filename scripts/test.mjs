// npm test: sets up, then types, lint, rooms, unit and browser tests. The last line counts them.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureWebBuild, ROOT } from './ensureBuilt.mjs';
import { run, runPackage, scriptOf } from './run.mjs';
import { photographDemo, seedDemo } from './seedDemo.mjs';
import { setup } from './setup.mjs';

process.chdir(ROOT);
const DATA = path.join(ROOT, '.cache', 'e2e-data');

/** Runs what installs these. @returns what went wrong, or null */
async function install(programs) {
  const { installCommands, thisMachine } = await import('../dist/programs.mjs');
  console.log(`Installing ${programs.join(', ')} for the tests …`);
  for (const command of installCommands(programs, thisMachine)) {
    const [program, ...args] = command.split(' ');
    try {
      await run(program, args, { env: { DEBIAN_FRONTEND: 'noninteractive' } });
    } catch (error) {
      return (error.output ?? error.message).slice(-800);
    }
  }
  return null;
}

/** Installs what the tests judge with, where this machine lets it; else says how. What only some tests need may be missing. */
async function installPrograms() {
  const { chromium } = await import('@playwright/test');
  const { NEEDED_PROGRAMS, OTHER_BROWSERS, findProgram, installCommands, pathWith, thisMachine } =
    await import('../dist/programs.mjs');
  const missingOf = (programs) =>
    programs.filter((program) => findProgram(program, thisMachine, [chromium.executablePath()]) === null);
  const mayInstall = process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');
  const needed = missingOf(NEEDED_PROGRAMS);
  if (needed.length > 0) {
    const sudo = process.platform === 'linux' && !mayInstall ? 'sudo ' : '';
    const problem = mayInstall ? await install(needed) : '';
    if (problem !== null) {
      console.error(`${problem}\nThe tests need ${needed.join(', ')}. Install with:`);
      for (const command of installCommands(needed, thisMachine)) console.error(`  ${sudo}${command}`);
      process.exit(1);
    }
  }
  const others = missingOf(OTHER_BROWSERS);
  const problem = others.length > 0 && mayInstall ? await install(others) : null;
  if (problem !== null) console.error(problem);
  const left = missingOf(OTHER_BROWSERS);
  if (left.length > 0) console.log(`Not installed: ${left.join(', ')}. Tests in these browsers are skipped.`);
  process.env.PATH = pathWith(NEEDED_PROGRAMS);
}

/** Folders whose imports go one way. */
const ROOMS = ['app', 'src', 'core', 'contract', 'platform', 'server', 'cli', 'demo', 'bench'];

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
  for (const name of ['fotoplan', 'office', 'locker', 'post'])
    for (const end of ['', '-wal', '-shm']) rmSync(path.join(DATA, `${name}.sqlite${end}`), { force: true });
  await seedDemo(DATA);
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

/** What needs no database: two things at a time, each on a core of its own, while programs are fetched. */
async function checkAndBuild() {
  await Promise.all([
    installPrograms(),
    check('lint', scriptOf('eslint', 'eslint'), ['.', '--max-warnings', '0']).then(() => photographDemo(DATA)),
    check('types', scriptOf('typescript', 'tsc'), ['--noEmit', '-p', '.'])
      .then(() =>
        check('rooms', scriptOf('dependency-cruiser', 'depcruise'), ['--config', '.dependency-cruiser.cjs', ...ROOMS]),
      )
      .then(() => check('format', scriptOf('prettier', 'prettier'), ['--check', '.']))
      .then(() => check('kernels', 'scripts/buildKernels.mjs', ['--check']))
      .then(ensureWebBuild),
  ]);
}

mkdirSync('test-results', { recursive: true });
await setup({ web: false, meanwhile: checkAndBuild });
await seed();
await jest();
await browser();
console.log(`${passed} passed, ${failed} failed`);
process.exitCode = failed === 0 ? 0 : 1;
