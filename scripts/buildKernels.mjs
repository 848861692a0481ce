// Compiles core/raster/kernels/convolution.as.ts to WebAssembly and writes it, in base64, beside what uses it. Run by
// hand after a change (`node scripts/buildKernels.mjs`); the compiler is fetched for that and is no dependency of the app.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-kernels-'));
const wasm = path.join(folder, 'kernels.wasm');
const options = ['-O3', '--runtime', 'stub', '--enable', 'simd', '--importMemory', '--initialMemory', '1', '--noAssert', '-o', wasm];
execFileSync('npx', ['--yes', '--package', 'assemblyscript@0.28.20', 'asc', 'core/raster/kernels/convolution.as.ts', ...options], { stdio: 'inherit' });
const text = readFileSync(wasm).toString('base64');
writeFileSync('core/raster/convolutionKernels.ts', `// Written by scripts/buildKernels.mjs; do not edit by hand.\nexport const CONVOLUTION_KERNELS = '${text}';\n`);
rmSync(folder, { recursive: true });
