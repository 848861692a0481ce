// What the WebAssembly kernels are compiled from, and the mark by which it is told whether they still are.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = fileURLToPath(new URL('..', import.meta.url));
export const KERNELS_FILE = 'core/imaging/kernels/kernels.ts';
export const KERNELS_ENTRY = 'core/imaging/kernels/index.as.ts';
export const COMPILER_OPTIONS = [
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

/** @returns SHA-256 of all sources, of how they are compiled and of the compiler's version, in hex */
export function kernelsMark() {
  const rooms = path.join(ROOT, 'core/imaging');
  const sources = readdirSync(rooms, { recursive: true })
    .map((file) => file.split(path.sep).join('/'))
    .filter((file) => file.endsWith('.as.ts'))
    .sort();
  const { version } = JSON.parse(readFileSync(path.join(ROOT, 'node_modules/assemblyscript/package.json'), 'utf8'));
  const hash = createHash('sha256').update(JSON.stringify([version, COMPILER_OPTIONS]));
  for (const file of sources)
    hash.update(`\n${file}\n`).update(readFileSync(path.join(rooms, file), 'utf8').replaceAll('\r\n', '\n'));
  return hash.digest('hex');
}
