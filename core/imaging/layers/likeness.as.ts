// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The windows of layerSimilarity.ts. Samples are bytes.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** Half a window. */
const RADIUS = 4;
/** Pixels of a window. */
const SIZE: f64 = 81;
/** The usual constants of the measure for 8 bits: that of lightness, and that of contrast. */
const C1: f64 = (0.01 * 255) * (0.01 * 255);
const C2: f64 = (0.03 * 255) * (0.03 * 255);

/** The sum of the structural similarity (Wang et al. 2004) of windows of two planes; `centres` are their middles' places in a plane (32-bit integers). */
export function sumLikeness(one: usize, other: usize, width: i32, centres: usize, count: i32): f64 {
  let sum: f64 = 0;
  for (let k = 0; k < count; k++) sum += likeness(one, other, width, load<u32>(centres + (<usize>k << 2)));
  return sum;
}

function likeness(one: usize, other: usize, width: i32, centre: i32): f64 {
  let at = <usize>(centre - RADIUS * width - RADIUS);
  let a = i32x4.splat(0);
  let b = i32x4.splat(0);
  let aa = i32x4.splat(0);
  let bb = i32x4.splat(0);
  let ab = i32x4.splat(0);
  const ones = i16x8.splat(1);
  for (let row = 0; row <= 2 * RADIUS; row++, at += width) {
    const p = i16x8.extend_low_i8x16_u(v128.load64_zero(one + at));
    const q = i16x8.extend_low_i8x16_u(v128.load64_zero(other + at));
    a = i32x4.add(a, i32x4.dot_i16x8_s(p, ones));
    b = i32x4.add(b, i32x4.dot_i16x8_s(q, ones));
    aa = i32x4.add(aa, i32x4.dot_i16x8_s(p, p));
    bb = i32x4.add(bb, i32x4.dot_i16x8_s(q, q));
    ab = i32x4.add(ab, i32x4.dot_i16x8_s(p, q));
    // the ninth column, in the first lane
    const u = i32x4.replace_lane(i32x4.splat(0), 0, load<u8>(one + at, 8));
    const v = i32x4.replace_lane(i32x4.splat(0), 0, load<u8>(other + at, 8));
    a = i32x4.add(a, u);
    b = i32x4.add(b, v);
    aa = i32x4.add(aa, i32x4.mul(u, u));
    bb = i32x4.add(bb, i32x4.mul(v, v));
    ab = i32x4.add(ab, i32x4.mul(u, v));
  }
  const ma = total(a) / SIZE;
  const mb = total(b) / SIZE;
  return (
    ((2 * ma * mb + C1) * (2 * (total(ab) / SIZE - ma * mb) + C2)) /
    ((ma * ma + mb * mb + C1) * (total(aa) / SIZE - ma * ma + total(bb) / SIZE - mb * mb + C2))
  );
}

// @ts-ignore: decorator
@inline
function total(lanes: v128): f64 {
  return <f64>(i32x4.extract_lane(lanes, 0) + i32x4.extract_lane(lanes, 1) + i32x4.extract_lane(lanes, 2) + i32x4.extract_lane(lanes, 3));
}
