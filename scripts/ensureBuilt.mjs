// Builds what is missing or stale. "Stale" is told by a stamp over names, sizes and times of the sources.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));

const NODE_SOURCES = [
  'core',
  'contract',
  'platform',
  'server',
  'cli',
  'demo',
  'bench',
  'src',
  'playwright.config.ts',
  'scripts/programs.ts',
  'scripts/buildNode.mjs',
  'package-lock.json',
];
const WEB_SOURCES = [
  'app',
  'src',
  'core',
  'platform',
  'contract',
  'assets',
  'scripts/finishWebBuild.mjs',
  'scripts/metro',
  'THIRD_PARTY_NOTICES',
  'global.css',
  'tailwind.config.js',
  'metro.config.js',
  'babel.config.js',
  'lingui.config.mjs',
  'app.json',
  'package-lock.json',
];

function stampOf(sources) {
  const hash = createHash('sha256');
  const visit = (at) => {
    if (!existsSync(at)) return;
    const stat = statSync(at);
    if (stat.isDirectory()) for (const name of readdirSync(at).sort()) visit(path.join(at, name));
    else if (!/\.test\.tsx?$|catalogues.\w+\.ts$/.test(at)) hash.update(`${at}\0${stat.size}\0${stat.mtimeMs}\n`);
  };
  for (const source of sources) visit(path.join(ROOT, source));
  return hash.digest('hex');
}

/** Runs `build` when the stamp has changed or the result is missing. */
async function ensure(name, sources, result, build) {
  const stampFile = path.join(ROOT, 'dist', `${name}.stamp`);
  const stamp = stampOf(sources);
  if (existsSync(path.join(ROOT, result)) && existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return;
  mkdirSync(path.join(ROOT, 'dist'), { recursive: true });
  await build();
  writeFileSync(stampFile, stamp);
}

export const ensureNodeBuild = () =>
  ensure('node', NODE_SOURCES, 'dist/fotoplan.mjs', async () => {
    const { buildNode } = await import('./buildNode.mjs');
    await buildNode();
  });

/** The sentences of each language, from what translators edit to what the app loads. */
export const ensureCatalogues = () =>
  ensure('catalogues', ['src/i18n/catalogues', 'lingui.config.mjs'], 'src/i18n/catalogues/en.ts', async () => {
    const { runPackage } = await import('./run.mjs');
    await runPackage('@lingui/cli', 'lingui', ['compile', '--namespace', 'ts']);
  });

export const ensureWebBuild = () =>
  ensure('web', WEB_SOURCES, 'dist/web/index.html', async () => {
    await ensureCatalogues();
    const { runPackage } = await import('./run.mjs');
    console.log('Building the app (about a minute) …');
    await runPackage('expo', 'expo', ['export', '-p', 'web', '--output-dir', 'dist/web'], {
      env: { CI: '1', EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1' },
    });
    const { finishWebBuild } = await import('./finishWebBuild.mjs');
    await finishWebBuild(path.join(ROOT, 'dist/web'));
  });
