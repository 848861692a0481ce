// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The loops of paleRules.ts. Samples are bytes, row right behind row, with sixteen to spare behind the last.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** How many of some pixels are at least `least` deep and have `full` below `below`; spare ones are not. */
export function countTinted(depth: usize, full: usize, count: i32, least: i32, below: i32): i32 {
  const floor = i8x16.splat(<i8>least);
  const ceiling = i8x16.splat(<i8>below);
  let found = 0;
  for (let i = 0; i < count; i += 16) {
    const is = v128.and(i8x16.ge_u(v128.load(depth + i), floor), i8x16.lt_u(v128.load(full + i), ceiling));
    let bits = <u32>i8x16.bitmask(is);
    if (count - i < 16) bits &= (1 << (count - i)) - 1;
    found += popcnt<u32>(bits);
  }
  return found;
}

/**
 * Means of stretches of rows, times `parts`, of pixels whose `full` is below `below`. 0 where fewer than `fewest` of a stretch are, and
 * where fewer than half of those are `least` deep: a line that crosses the stretch is none along it.
 * @param reach - half a stretch, without its middle
 */
export function meansAcross(depth: usize, full: usize, width: i32, height: i32, reach: i32, below: i32, fewest: i32, least: i32, parts: f32, out: usize): void {
  for (let y = 0; y < height; y++, depth += width, full += width, out += width) {
    let sum = 0;
    let count = 0;
    let tinted = 0;
    for (let x = 0; x < width + reach; x++) {
      if (x < width && <i32>load<u8>(full + x) < below) {
        const own = <i32>load<u8>(depth + x);
        sum += own;
        tinted += i32(own >= least);
        count++;
      }
      const gone = x - 2 * reach - 1;
      if (gone >= 0 && <i32>load<u8>(full + gone) < below) {
        const own = <i32>load<u8>(depth + gone);
        sum -= own;
        tinted -= i32(own >= least);
        count--;
      }
      if (x >= reach) store<u8>(out + x - reach, count < fewest || 2 * tinted < count ? 0 : <u8>min<f32>(255, (parts * <f32>sum) / <f32>count));
    }
  }
}

/**
 * The same of columns.
 * @param sums - for each column three 16-bit integers, 0 at first: all sums, then all counts, then all that are deep enough; `stride`
 *   bytes from one kind to the next, with room for eight columns more
 */
export function meansDown(depth: usize, full: usize, width: i32, height: i32, reach: i32, below: i32, fewest: i32, least: i32, parts: f32, sums: usize, stride: i32, out: usize): void {
  const ceiling = i16x8.splat(<i16>below);
  const enough = i16x8.splat(<i16>fewest);
  const deep = i16x8.splat(<i16>least);
  const times = f32x4.splat(parts);
  for (let y = 0; y < height + reach; y++) {
    const gone = y - 2 * reach - 1;
    const middle = y - reach;
    for (let x = 0; x < width; x += 8) {
      const at = sums + (<usize>x << 1);
      let sum = v128.load(at);
      let count = v128.load(at + stride);
      let tinted = v128.load(at + 2 * stride);
      if (y < height) {
        const from = <usize>(y * width + x);
        const counted = i16x8.lt_u(i16x8.extend_low_i8x16_u(v128.load64_zero(full + from)), ceiling);
        const own = i16x8.extend_low_i8x16_u(v128.load64_zero(depth + from));
        sum = i16x8.add(sum, v128.and(counted, own));
        count = i16x8.sub(count, counted);
        tinted = i16x8.sub(tinted, v128.and(counted, i16x8.ge_u(own, deep)));
      }
      if (gone >= 0) {
        const from = <usize>(gone * width + x);
        const counted = i16x8.lt_u(i16x8.extend_low_i8x16_u(v128.load64_zero(full + from)), ceiling);
        const own = i16x8.extend_low_i8x16_u(v128.load64_zero(depth + from));
        sum = i16x8.sub(sum, v128.and(counted, own));
        count = i16x8.add(count, counted);
        tinted = i16x8.add(tinted, v128.and(counted, i16x8.ge_u(own, deep)));
      }
      v128.store(at, sum);
      v128.store(at + stride, count);
      v128.store(at + 2 * stride, tinted);
      if (middle < 0) continue;
      const low = f32x4.div(f32x4.mul(times, f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(sum))), f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(count)));
      const high = f32x4.div(f32x4.mul(times, f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(sum))), f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(count)));
      // where nothing is counted the quotient is no number, and 0 as an integer
      const means = i16x8.narrow_i32x4_u(i32x4.trunc_sat_f32x4_u(low), i32x4.trunc_sat_f32x4_u(high));
      const isLine = v128.and(i16x8.ge_u(count, enough), i16x8.ge_u(i16x8.shl(tinted, 1), count));
      const kept = v128.and(means, isLine);
      const bytes = i8x16.narrow_i16x8_u(i16x8.min_u(kept, i16x8.splat(255)), kept);
      const to = out + <usize>(middle * width + x);
      if (x + 8 <= width) v128.store64_lane(to, bytes, 0);
      else for (let k = 0; k < width - x; k++) store<u8>(to + k, <u8>(i64x2.extract_lane(bytes, 0) >>> (8 * k)));
    }
  }
}

/**
 * Sets 1 where samples are more than those `aside` steps to both of their sides, by `least` at their middle, and by half of that
 * at least: their middle is the largest within two steps.
 * @param samples - the first one asked for; those `aside` steps in front and behind are read
 */
export function markRidges(samples: usize, count: i32, step: i32, aside: i32, least: i32, out: usize): void {
  const floor = i8x16.splat(<i8>least);
  const far = aside * step;
  for (let i = 0; i < count; i += 16) {
    const at = samples + i;
    const own = v128.load(at);
    const paper = i8x16.max_u(v128.load(at - far), v128.load(at + far));
    const beside = i8x16.max_u(i8x16.max_u(v128.load(at - step), v128.load(at + step)), i8x16.max_u(v128.load(at - 2 * step), v128.load(at + 2 * step)));
    const depth = i8x16.sub_sat_u(own, paper);
    const middle = i8x16.sub_sat_u(i8x16.max_u(own, beside), paper);
    const is = v128.and(i8x16.ge_u(middle, floor), i8x16.ge_u(depth, i8x16.avgr_u(middle, i8x16.splat(0))));
    const marks = v128.and(is, i8x16.splat(1));
    if (count - i >= 16) v128.store(out + i, v128.or(v128.load(out + i), marks));
    else for (let k = i; k < count; k++) store<u8>(out + k, load<u8>(out + k) | <u8>(<u32>(<i32>i8x16.bitmask(is)) >> (k - i)) & 1);
  }
}

/** The larger of two samples, into the first. */
export function largerOf(one: usize, other: usize, count: i32): void {
  for (let i = 0; i < count; i += 16) v128.store(one + i, i8x16.max_u(v128.load(one + i), v128.load(other + i)));
}

/** Depths of what is `sure` deep, or deeper by `least` than the palest sample near it; 0 for the rest. */
export function standOut(depth: usize, palest: usize, count: i32, sure: i32, least: i32, out: usize): void {
  const enough = i8x16.splat(<i8>sure);
  const more = i8x16.splat(<i8>least);
  for (let i = 0; i < count; i += 16) {
    const own = v128.load(depth + i);
    const paper = v128.load(palest + i);
    const is = i8x16.ge_u(own, i8x16.min_u(enough, i8x16.add_sat_u(paper, more)));
    v128.store(out + i, v128.and(own, is));
  }
}
