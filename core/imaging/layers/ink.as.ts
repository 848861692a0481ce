// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// Loops over finished pages, most of which are white: inkDepth.ts, pageBackground.ts and ../finish/inkPlane.ts. Samples are bytes.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

import { LUMA_BLUE, LUMA_GREEN, LUMA_RED } from '../raster/luma.as';

/** Of RGB pixels, 255 less the least of a pixel's channels, and its lightness (Rec. 601 weights); sixteen pixels to spare behind each. */
export function depthAndGrey(pixels: usize, count: i32, depth: usize, grey: usize): void {
  const full = i8x16.splat(-1);
  for (let i = 0; i < count; i += 16, pixels += 48) {
    const a = v128.load(pixels);
    const b = v128.load(pixels, 16);
    const c = v128.load(pixels, 32);
    if (i8x16.all_true(i8x16.eq(v128.and(v128.and(a, b), c), full))) {
      v128.store(depth + i, i8x16.splat(0));
      v128.store(grey + i, full);
      continue;
    }
    const red = v128.or(v128.or(i8x16.swizzle(a, i8x16(0, 3, 6, 9, 12, 15, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1)), i8x16.swizzle(b, i8x16(-1, -1, -1, -1, -1, -1, 2, 5, 8, 11, 14, -1, -1, -1, -1, -1))), i8x16.swizzle(c, i8x16(-1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, 1, 4, 7, 10, 13)));
    const green = v128.or(v128.or(i8x16.swizzle(a, i8x16(1, 4, 7, 10, 13, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1)), i8x16.swizzle(b, i8x16(-1, -1, -1, -1, -1, 0, 3, 6, 9, 12, 15, -1, -1, -1, -1, -1))), i8x16.swizzle(c, i8x16(-1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, 2, 5, 8, 11, 14)));
    const blue = v128.or(v128.or(i8x16.swizzle(a, i8x16(2, 5, 8, 11, 14, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1)), i8x16.swizzle(b, i8x16(-1, -1, -1, -1, -1, 1, 4, 7, 10, 13, -1, -1, -1, -1, -1, -1))), i8x16.swizzle(c, i8x16(-1, -1, -1, -1, -1, -1, -1, -1, -1, -1, 0, 3, 6, 9, 12, 15)));
    v128.store(depth + i, v128.not(i8x16.min_u(i8x16.min_u(red, green), blue)));
    const low = lightness(i16x8.extend_low_i8x16_u(red), i16x8.extend_low_i8x16_u(green), i16x8.extend_low_i8x16_u(blue));
    const high = lightness(i16x8.extend_high_i8x16_u(red), i16x8.extend_high_i8x16_u(green), i16x8.extend_high_i8x16_u(blue));
    v128.store(grey + i, i8x16.narrow_i16x8_u(low, high));
  }
}

// @ts-ignore: decorator
@inline
function lightness(red: v128, green: v128, blue: v128): v128 {
  const sum = i16x8.add(i16x8.add(i16x8.mul(red, i16x8.splat(<i16>nearest<f32>(256 * LUMA_RED))), i16x8.mul(green, i16x8.splat(<i16>nearest<f32>(256 * LUMA_GREEN)))), i16x8.add(i16x8.mul(blue, i16x8.splat(<i16>nearest<f32>(256 * LUMA_BLUE))), i16x8.splat(128)));
  return i16x8.shr_u(sum, 8);
}

/** How many of `count` bytes are at least `least`; those behind them, up to fifteen, are 0. */
export function countFrom(bytes: usize, count: i32, least: i32): i32 {
  const floor = i8x16.splat(<i8>least);
  let found = 0;
  for (let i = 0; i < count; i += 16) found += popcnt<i32>(i8x16.bitmask(i8x16.ge_u(v128.load(bytes + i), floor)));
  return found;
}

/** 1 where depth is at least `least` and at least share / 256 of full, else 0; fifteen bytes to spare behind each. */
export function markInk(depth: usize, full: usize, count: i32, least: i32, share: i32, out: usize): void {
  const floor = i8x16.splat(<i8>least);
  const weight = i16x8.splat(<i16>share);
  for (let i: usize = 0; i < <usize>count; i += 16) {
    const own = v128.load(depth + i);
    const whole = v128.load(full + i);
    const low = i16x8.shr_u(i16x8.add(i16x8.mul(i16x8.extend_low_i8x16_u(whole), weight), i16x8.splat(255)), 8);
    const high = i16x8.shr_u(i16x8.add(i16x8.mul(i16x8.extend_high_i8x16_u(whole), weight), i16x8.splat(255)), 8);
    v128.store(out + i, v128.and(i8x16.ge_u(own, i8x16.max_u(floor, i8x16.narrow_i16x8_u(low, high))), i8x16.splat(1)));
  }
}

/** A row of binomial means of 3 × 3, of three rows that have one byte before and seventeen behind. */
export function binomialRow(above: usize, here: usize, below: usize, width: i32, out: usize): void {
  const half = i16x8.splat(8);
  for (let x: usize = 0; x < <usize>width; x += 8) {
    const sum = i16x8.add(i16x8.add(columns(above + x - 1, here + x - 1, below + x - 1), i16x8.shl(columns(above + x, here + x, below + x), 1)), columns(above + x + 1, here + x + 1, below + x + 1));
    const mean = i16x8.shr_u(i16x8.add(sum, half), 4);
    v128.store64_lane(out + x, i8x16.narrow_i16x8_u(mean, mean), 0);
  }
}

// @ts-ignore: decorator
@inline
function columns(above: usize, here: usize, below: usize): v128 {
  const middle = i16x8.extend_low_i8x16_u(v128.load64_zero(here));
  return i16x8.add(i16x8.add(i16x8.extend_low_i8x16_u(v128.load64_zero(above)), i16x8.shl(middle, 1)), i16x8.extend_low_i8x16_u(v128.load64_zero(below)));
}

/**
 * For each block of four columns of a few rows, the sums of the channels of what is not covered (three 32-bit integers) and
 * how many pixels that are (one more).
 */
export function sumBlocks(pixels: usize, covered: usize, width: i32, rows: i32, channels: i32, out: usize): void {
  for (let left = 0; left < width; left += 4, out += 16) {
    const columns = min(4, width - left);
    let red = 0;
    let green = 0;
    let blue = 0;
    let count = 0;
    for (let y = 0; y < rows; y++) {
      const mask = covered + <usize>(y * width + left);
      let at = pixels + <usize>((y * width + left) * channels);
      if (channels == 3 && columns == 4 && load<u32>(mask) == 0 && load<u64>(at) == u64.MAX_VALUE && load<u32>(at, 8) == u32.MAX_VALUE) {
        red += 1020;
        green += 1020;
        blue += 1020;
        count += 4;
        continue;
      }
      for (let x = 0; x < columns; x++, at += channels) {
        if (load<u8>(mask + x) != 0) continue;
        red += load<u8>(at);
        if (channels != 1) {
          green += load<u8>(at, 1);
          blue += load<u8>(at, 2);
        }
        count++;
      }
    }
    store<i32>(out, red);
    store<i32>(out, green, 4);
    store<i32>(out, blue, 8);
    store<i32>(out, count, 12);
  }
}
