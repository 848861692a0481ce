// Bundles everything that runs in Node (server, command line, workers, seed, bench) into dist/.
import { build } from 'esbuild';

export async function buildNode() {
  await build({
    entryPoints: {
      server: 'server/main.ts',
      fotoplan: 'cli/main.ts',
      pageWorker: 'platform/node/pageWorker.ts',
      takePhotos: 'demo/takePhotos.ts',
      seed: 'demo/seed/main.ts',
      bench: 'bench/main.ts',
      trainScorer: 'bench/trainScorer.ts',
    },
    outdir: 'dist',
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    outExtension: { '.js': '.mjs' },
    sourcemap: true,
    tsconfig: 'tsconfig.json',
    logLevel: 'warning',
  });
}
