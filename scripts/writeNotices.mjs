// npm run notices: writes THIRD_PARTY_NOTICES, the licences of everything that is served or runs on a server.
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { setup } from './setup.mjs';

await setup({ web: false });
const { build } = await import('esbuild');
const { BROWSER_WORKER_BUILD } = await import('./buildNode.mjs');
const { ROOT } = await import('./ensureBuilt.mjs');
const { runPackage } = await import('./run.mjs');
process.chdir(ROOT);

const packageIn = (file) =>
  /.*node_modules\/((?:@[^/]+\/)?[^/]+)/.exec(file)?.[0].replace(/^.*?node_modules/, 'node_modules');

/** Folders of the packages whose code or fonts are in the app that browsers load. */
async function packagesOfApp() {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-notices-'));
  await runPackage('expo', 'expo', ['export', '-p', 'web', '--output-dir', folder, '--source-maps', 'external'], {
    env: { CI: '1', EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1' },
  });
  const files = readdirSync(folder, { recursive: true }).map((file) => path.join(folder, file));
  const sources = files
    .filter((file) => file.endsWith('.map'))
    .flatMap((file) => JSON.parse(readFileSync(file, 'utf8')).sources);
  // fonts and pictures lie under the path that they have in their package
  const assets = files.map((file) => path.relative(folder, file)).filter((file) => file.includes('node_modules'));
  rmSync(folder, { recursive: true });
  const { metafile } = await build({ ...BROWSER_WORKER_BUILD, write: false, metafile: true });
  return [...sources, ...assets, ...Object.keys(metafile.inputs)].map(packageIn).filter((found) => found !== undefined);
}

/** Copied or loaded by path, so that no bundle shows them. */
const BY_PATH = [
  '@expo-google-fonts/atkinson-hyperlegible-next',
  'pdfjs-dist',
  // of these the service worker is made
  ...['core', 'expiration', 'precaching', 'routing', 'strategies'].map((part) => `workbox-${part}`),
].map((name) => `node_modules/${name}`);
/** Where the source lies of what comes as compiled code under a licence that asks for it. */
const SOURCES = {
  'libheif-js':
    'Compiled from https://github.com/strukturag/libheif and https://github.com/strukturag/libde265; built by https://github.com/catdad-experiments/libheif-js. It is a file of its own (dist/workers/rareFormats.mjs is built from it): put another build of it in node_modules/libheif-js and run `npm run demo` to replace it.',
  '@img/sharp-libvips':
    'Compiled from https://github.com/libvips/libvips and what it names; built by https://github.com/lovell/sharp-libvips. It is a shared library of its own and can be replaced by another build.',
};

const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const onServer = Object.keys(packages).filter((folder) => folder !== '' && !packages[folder].dev);
const folders = [...new Set([...onServer, ...(await packagesOfApp()), ...BY_PATH])].filter(
  (folder) => folder in packages,
);

const nameOf = (folder) => folder.replace(/^.*node_modules\//, '');
const licenceFile = (folder) =>
  existsSync(folder)
    ? readdirSync(folder)
        .filter((name) => /^(licen[cs]e|copying|notice|ofl)/i.test(name))
        .sort()
    : [];
const entries = folders
  .map((folder) => {
    const own = existsSync(path.join(folder, 'package.json'))
      ? JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8'))
      : {};
    const name = nameOf(folder);
    const source = Object.entries(SOURCES).find(([start]) => name.startsWith(start))?.[1];
    return {
      title: `${name} ${packages[folder].version}`,
      licence:
        packages[folder].license ?? own.license ?? own.licenses?.map(({ type }) => type).join(' OR ') ?? 'see its text',
      source,
      text: licenceFile(folder)
        .map((file) => readFileSync(path.join(folder, file), 'utf8').replaceAll('\r', '').trim())
        .join('\n\n'),
    };
  })
  .filter((entry, i, all) => all.findIndex(({ title }) => title === entry.title) === i)
  .sort((a, b) => (a.title < b.title ? -1 : 1));

// many packages share a text word for word: each text stands once, under all whose it is
const byText = new Map();
for (const entry of entries) byText.set(entry.text, [...(byText.get(entry.text) ?? []), entry]);
const RULE = '-'.repeat(80);
const parts = [...byText].map(([text, those]) =>
  [
    RULE,
    ...those.flatMap(({ title, licence, source }) => [
      `${title} (${licence})`,
      ...(source === undefined ? [] : [`  ${source}`]),
    ]),
    '',
    text === '' ? 'The package brings no text of its licence; its name stands above.' : text,
    '',
  ].join('\n'),
);
writeFileSync(
  'THIRD_PARTY_NOTICES',
  `Fotoplan contains or runs the packages below, each under its own licence.\nWritten by \`npm run notices\`; do not edit by hand.\n\n${parts.join('\n')}`,
);
console.log(`${entries.length} packages, ${byText.size} texts`);
