// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of deconvolveMotionBlur.ts. Planes are 32-bit floats.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/**
 * out[i] = the sum of weights × plane[i + offset] over the taps, for i from first to last (a multiple of eight apart), as far
 * as the taps reach within the plane.
 * @param taps - for each its offset (32-bit integer, in values; forwards as is, backwards with its sign changed) and its weight (32-bit float)
 */
export function convolveTaps(plane: usize, out: usize, first: i32, last: i32, taps: usize, count: i32, backwards: bool): void {
  for (let i = first; i < last; i += 8) {
    const at = <usize>i << 2;
    let a = f32x4.splat(0);
    let b = f32x4.splat(0);
    for (let t: usize = 0; t < <usize>count; t++) {
      const offset = load<i32>(taps + (t << 3));
      const weight = v128.load32_splat(taps + (t << 3) + 4);
      const from = plane + at + <usize>((backwards ? -offset : offset) << 2);
      a = f32x4.add(a, f32x4.mul(weight, v128.load(from)));
      b = f32x4.add(b, f32x4.mul(weight, v128.load(from, 16)));
    }
    v128.store(out + at, a);
    v128.store(out + at, b, 16);
  }
}

/** out = seen / out: by how much what was expected falls short of what was seen. */
export function ratioTo(seen: usize, out: usize, count: i32): void {
  const least = f32x4.splat(0.0001);
  for (let i: usize = 0, bytes = <usize>count << 2; i < bytes; i += 16) v128.store(out + i, f32x4.div(v128.load(seen + i), f32x4.max(v128.load(out + i), least)));
}

/** sharp × correction, no more than 1 and a little. */
export function multiplyBy(sharp: usize, correction: usize, count: i32, most: f32): void {
  const top = f32x4.splat(most);
  for (let i: usize = 0, bytes = <usize>count << 2; i < bytes; i += 16) v128.store(sharp + i, f32x4.min(top, f32x4.mul(v128.load(sharp + i), v128.load(correction + i))));
}
