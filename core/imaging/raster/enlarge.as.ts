// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of enlargePlane.ts. Values are 32-bit floats.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** line = above + (below - above) × share, for `width` values and the last once more; all have three values to spare. */
export function lerpRows(above: usize, below: usize, share: f32, width: i32, line: usize): void {
  const factor = f32x4.splat(share);
  const bytes = <usize>width << 2;
  for (let i: usize = 0; i < bytes; i += 16) {
    const a = v128.load(above + i);
    v128.store(line + i, f32x4.add(a, f32x4.mul(f32x4.sub(v128.load(below + i), a), factor)));
  }
  store<f32>(line + bytes, load<f32>(line + bytes - 4));
}

/** Reads a line at `count` places: between lefts[x] (32-bit integers) and the value after it, by shares[x]; each result `step` bytes after the last. */
export function resampleRow(line: usize, lefts: usize, shares: usize, count: i32, out: usize, step: i32): void {
  for (let k: usize = 0, end = <usize>count << 2; k < end; k += 4, out += <usize>step) {
    const at = line + (<usize>load<i32>(lefts + k) << 2);
    const left = load<f32>(at);
    store<f32>(out, left + (load<f32>(at, 4) - left) * load<f32>(shares + k));
  }
}
