// Bundles everything that runs in Node (server, command line, workers, seed, bench) into dist/, and the one browser worker that
// the app loads only when it needs it into dist/workers/.
import { cpSync, existsSync, readdirSync, rmSync } from 'node:fs';
import { build } from 'esbuild';

/** What esbuild is told for everything that runs in Node; `npm run dev` builds the same on each change. */
export const NODE_BUILD = {
  entryPoints: {
    server: 'server/main.ts',
    fotoplan: 'cli/main.ts',
    readerWorker: 'platform/node/readerWorker.ts',
    pageWorker: 'platform/node/pageWorker.ts',
    takePhotos: 'demo/takePhotos.ts',
    seed: 'demo/seed/main.ts',
    bytesWorker: 'server/blobs/bytesWorker.ts',
    fileCheckWorker: 'server/fileChecks/fileCheckWorker.ts',
    keeping: 'server/keeping/main.ts',
    account: 'server/college/accountMain.ts',
    person: 'server/keeping/peopleMain.ts',
    settingsTable: 'server/config/settingsTable.ts',
    load: 'bench/load/main.ts',
    faults: 'bench/faults/main.ts',
    histories: 'bench/histories/main.ts',
    bench: 'bench/main.ts',
    trainScorer: 'bench/trainScorer.ts',
    programs: 'scripts/programs.ts',
  },
  outdir: 'dist',
  bundle: true,
  // what several share is there once, and what only some commands need is loaded by them; all in one folder, as paths are from there
  splitting: true,
  chunkNames: 'part-[hash]',
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  outExtension: { '.js': '.mjs' },
  sourcemap: true,
  tsconfig: 'tsconfig.json',
  logLevel: 'warning',
};

/** And for the worker that the browser loads only when it needs it. */
export const BROWSER_WORKER_BUILD = {
  entryPoints: { rareFormats: 'platform/browser/rareFormats/worker.ts' },
  outdir: 'dist/workers',
  bundle: true,
  minify: true,
  platform: 'browser',
  format: 'esm',
  target: 'es2022',
  outExtension: { '.js': '.mjs' },
  external: ['fs', 'path'],
  logLevel: 'warning',
};

export async function buildNode() {
  for (const name of existsSync('dist') ? readdirSync('dist') : [])
    if (/^part-.*\.mjs(\.map)?$/.test(name)) rmSync(`dist/${name}`);
  await build(NODE_BUILD);
  await build(BROWSER_WORKER_BUILD);
  cpSync(
    'node_modules/@expo-google-fonts/atkinson-hyperlegible-next/400Regular/AtkinsonHyperlegibleNext_400Regular.ttf',
    'dist/workers/AtkinsonHyperlegibleNext.ttf',
  );
  cpSync('node_modules/@jsquash/jxl/codec/dec/jxl_dec.wasm', 'dist/workers/jxl_dec.wasm');
  // what pdf.js fetches while it draws
  for (const folder of ['standard_fonts', 'cmaps', 'wasm'])
    cpSync(`node_modules/pdfjs-dist/${folder}`, `dist/workers/${folder}`, { recursive: true });
}
