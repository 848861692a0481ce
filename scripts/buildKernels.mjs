// Compiles core/raster/kernels/*.as.ts to WebAssembly and writes each, in base64, beside what uses it. Run by hand after a
// change (`node scripts/buildKernels.mjs`); the compiler is fetched for that and is no dependency of the app.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-kernels-'));
const wasm = path.join(folder, 'kernels.wasm');
const options = [
  '-O3',
  '--runtime',
  'stub',
  '--enable',
  'simd',
  '--importMemory',
  '--initialMemory',
  '1',
  '--noAssert',
  '-o',
  wasm,
];
for (const file of readdirSync('core/raster/kernels')) {
  const name = file.replace('.as.ts', '');
  execFileSync(
    'npx',
    ['--yes', '--package', 'assemblyscript@0.28.20', 'asc', `core/raster/kernels/${file}`, ...options],
    { stdio: 'inherit' },
  );
  const text = readFileSync(wasm).toString('base64');
  writeFileSync(
    `core/raster/${name}Kernels.ts`,
    `// Written by scripts/buildKernels.mjs; do not edit by hand.\nexport const ${name.toUpperCase()}_KERNELS = '${text}';\n`,
  );
}
rmSync(folder, { recursive: true });
