// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of halveImage.ts, resizeByArea.ts and packRgb.ts. Samples are bytes.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** Means of 2 × 2 pixels of two rows that have 2 × width pixels; sixteen bytes to spare behind each. */
export function halveRows(upper: usize, lower: usize, channels: i32, width: i32, out: usize): void {
  // the samples of every other pixel, and of those between
  const even = channels == 1 ? i8x16(0, 2, 4, 6, 8, 10, 12, 14, -1, -1, -1, -1, -1, -1, -1, -1) : channels == 3 ? i8x16(0, 1, 2, 6, 7, 8, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1) : i8x16(0, 1, 2, 3, 8, 9, 10, 11, -1, -1, -1, -1, -1, -1, -1, -1);
  const odd = channels == 1 ? i8x16(1, 3, 5, 7, 9, 11, 13, 15, -1, -1, -1, -1, -1, -1, -1, -1) : channels == 3 ? i8x16(3, 4, 5, 9, 10, 11, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1) : i8x16(4, 5, 6, 7, 12, 13, 14, 15, -1, -1, -1, -1, -1, -1, -1, -1);
  const step: usize = channels == 3 ? 6 : 8;
  const half = i16x8.splat(2);
  for (let done: usize = 0, all = <usize>(width * channels); done < all; done += step) {
    const a = v128.load(upper + 2 * done);
    const b = v128.load(lower + 2 * done);
    const first = i16x8.add(i16x8.extend_low_i8x16_u(i8x16.swizzle(a, even)), i16x8.extend_low_i8x16_u(i8x16.swizzle(a, odd)));
    const second = i16x8.add(i16x8.extend_low_i8x16_u(i8x16.swizzle(b, even)), i16x8.extend_low_i8x16_u(i8x16.swizzle(b, odd)));
    const mean = i16x8.shr_u(i16x8.add(i16x8.add(first, second), half), 2);
    v128.store64_lane(out + done, i8x16.narrow_i16x8_u(mean, mean), 0);
  }
}

/** mixed += row × weight, for 32-bit floats; sixteen samples to spare behind each. */
export function addWeightedRow(row: usize, count: i32, weight: f32, mixed: usize): void {
  const factor = f32x4.splat(weight);
  for (let i = 0; i < count; i += 8, mixed += 32) {
    const samples = i16x8.extend_low_i8x16_u(v128.load64_zero(row + i));
    v128.store(mixed, f32x4.add(v128.load(mixed), f32x4.mul(factor, f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(samples)))));
    v128.store(mixed + 16, f32x4.add(v128.load(mixed, 16), f32x4.mul(factor, f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(samples)))));
  }
}

/** A row of means: pixel x of `out` from `each` pixels of `mixed` on from firsts[x] (32-bit integers), with weights[x, each]; three bytes to spare. */
export function shrinkRow(mixed: usize, channels: i32, firsts: usize, weights: usize, each: i32, width: i32, out: usize): void {
  const pixel = <usize>channels << 2;
  for (let x = 0; x < width; x++, out += channels) {
    let from = mixed + <usize>load<i32>(firsts + (<usize>x << 2)) * pixel;
    let sum = f32x4.splat(0);
    for (let k = 0; k < each; k++, from += pixel, weights += 4) sum = f32x4.add(sum, f32x4.mul(v128.load32_splat(weights), v128.load(from)));
    const whole = i32x4.trunc_sat_f32x4_u(f32x4.nearest(sum));
    const words = i16x8.narrow_i32x4_u(whole, whole);
    v128.store32_lane(out, i8x16.narrow_i16x8_u(words, words), 0);
  }
}

/** RGB of RGBA pixels; fifteen bytes to spare behind each. */
export function dropAlpha(pixels: usize, count: i32, out: usize): void {
  for (let i = 0; i < count; i += 4, pixels += 16, out += 12) v128.store(out, i8x16.swizzle(v128.load(pixels), i8x16(0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, -1, -1, -1, -1)));
}

/** RGB of BGRA pixels; fifteen bytes to spare behind each. */
export function dropAlphaOfBgra(pixels: usize, count: i32, out: usize): void {
  for (let i = 0; i < count; i += 4, pixels += 16, out += 12) v128.store(out, i8x16.swizzle(v128.load(pixels), i8x16(2, 1, 0, 6, 5, 4, 10, 9, 8, 14, 13, 12, -1, -1, -1, -1)));
}

/** Side of the squares in which pixels are turned, px: both of a square's sides stay in the nearest cache. */
const TURNED = 16;

/** Columns of four-byte pixels as rows, each read upwards where `backwards`. */
export function columnsAsRows(pixels: usize, width: i32, height: i32, backwards: bool, out: usize): void {
  for (let top = 0; top < height; top += TURNED) {
    const bottom = min(height, top + TURNED);
    for (let left = 0; left < width; left += TURNED) {
      const right = min(width, left + TURNED);
      for (let x = left; x < right; x++) {
        let from = pixels + (<usize>(top * width + x) << 2);
        let to = out + (<usize>(x * height + (backwards ? height - 1 - top : top)) << 2);
        for (let y = top; y < bottom; y++) {
          store<u32>(to, load<u32>(from));
          from += <usize>width << 2;
          if (backwards) to -= 4;
          else to += 4;
        }
      }
    }
  }
}
