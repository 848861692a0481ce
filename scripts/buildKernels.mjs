// Compiles the *.as.ts beside the rooms of core/imaging to one WebAssembly module, and writes it, in base64, with the types of
// what it exports. Run after a change: `node scripts/buildKernels.mjs`. With --check it only compares, as `npm test` does, and
// ends with 1 where they differ.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const ROOT = fileURLToPath(new URL('..', import.meta.url));
const KERNELS_FILE = 'core/imaging/kernels/kernels.ts';
const COMPILER_OPTIONS = [
  '-O3',
  '--runtime',
  'stub',
  '--enable',
  'simd',
  '--importMemory',
  '--initialMemory',
  '1',
  '--noAssert',
];

const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-kernels-'));
const wasm = path.join(folder, 'kernels.wasm');
try {
  execFileSync(
    process.execPath,
    [
      path.join(ROOT, 'node_modules/assemblyscript/bin/asc.js'),
      'core/imaging/kernels/index.as.ts',
      ...COMPILER_OPTIONS,
      '--bindings',
      'raw',
      '-o',
      wasm,
    ],
    { cwd: ROOT, stdio: 'inherit' },
  );
  const text = moduleOf(readFileSync(wasm), readFileSync(path.join(folder, 'kernels.d.ts'), 'utf8'));
  const file = path.join(ROOT, KERNELS_FILE);
  if (!process.argv.includes('--check')) writeFileSync(file, text);
  else if (readFileSync(file, 'utf8') !== text) {
    console.error(`${KERNELS_FILE} is not what its sources compile to. Run: node scripts/buildKernels.mjs`);
    process.exitCode = 1;
  }
} finally {
  rmSync(folder, { recursive: true });
}

/** The TypeScript module of what was compiled and of the compiler's own declarations. */
function moduleOf(bytes, declarations) {
  const methods = [];
  let pointers = new Set();
  for (const line of declarations.split('\n')) {
    const parameter = /^ {3}\* @param (\w+) `(\w+)`/.exec(line);
    if (parameter?.[2] === 'usize') pointers.add(parameter[1]);
    const method = /^ {2}export function (\w+)\((.*)\): (\w+);/.exec(line);
    if (method === null) continue;
    const [, name, parameters, result] = method;
    const typed = parameters.replace(/(\w+): number/g, (same, each) =>
      pointers.has(each) ? `${each}: Address` : same,
    );
    methods.push(`  ${name}(${typed}): ${result};`);
    pointers = new Set();
  }
  return `// Written by scripts/buildKernels.mjs; do not edit by hand.

/** A place in the kernels' memory, in bytes: given by a slot of a workspace. */
export type Address = number & { readonly ofKernels: unique symbol };

/** What the module exports, as its compiler says. */
export interface Kernels {
${methods.join('\n')}
}

export const KERNELS_BASE64 =
  '${bytes.toString('base64')}';
`;
}
