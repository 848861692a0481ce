// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of colourPicture.ts and edgePoints.ts. A picture is four 32-bit floats a pixel: lightness, red-green, yellow-blue, nothing.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

import { LUMA_BLUE, LUMA_GREEN, LUMA_RED } from '../raster/luma.as';

/**
 * A row of a picture from two rows of bytes: pixel x is the mean of those that begin at columns[x] (bytes, 32-bit integers)
 * and `step` bytes further on, in both rows; seven bytes to spare behind each.
 */
export function splitRow(upper: usize, lower: usize, step: i32, grey: bool, columns: usize, width: i32, out: usize): void {
  // each sample's byte to a lane of its own
  const spread = grey ? i8x16(0, -1, 0, -1, 0, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1) : i8x16(0, -1, 1, -1, 2, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1);
  const beside = v128.bitselect(i8x16.add(spread, i8x16.splat(<i8>step)), spread, i8x16.ge_s(spread, i8x16.splat(0)));
  const ofRed = f32x4(LUMA_RED / 4, 0.7 / 4, 0.35 / 4, 0);
  const ofGreen = f32x4(LUMA_GREEN / 4, -0.7 / 4, 0.35 / 4, 0);
  const ofBlue = f32x4(LUMA_BLUE / 4, 0, -0.7 / 4, 0);
  for (let x = 0; x < width; x++, columns += 4, out += 16) {
    const at = <usize>load<i32>(columns);
    const above = v128.load64_zero(upper + at);
    const below = v128.load64_zero(lower + at);
    const left = i16x8.add(i8x16.swizzle(above, spread), i8x16.swizzle(below, spread));
    const right = i16x8.add(i8x16.swizzle(above, beside), i8x16.swizzle(below, beside));
    const sum = f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.add(left, right)));
    const red = f32x4.mul(v128.shuffle<f32>(sum, sum, 0, 0, 0, 0), ofRed);
    const green = f32x4.mul(v128.shuffle<f32>(sum, sum, 1, 1, 1, 1), ofGreen);
    const blue = f32x4.mul(v128.shuffle<f32>(sum, sum, 2, 2, 2, 2), ofBlue);
    v128.store(out, f32x4.add(f32x4.add(red, green), blue));
  }
}

/** A picture times a factor, in place. */
export function scalePicture(picture: usize, pixels: i32, factor: f32): void {
  const by = f32x4.splat(factor);
  for (let i = 0; i < pixels; i++, picture += 16) v128.store(picture, f32x4.mul(v128.load(picture), by));
}

/** Half the size, each pixel the mean of four; an odd last row or column is dropped. */
export function halvePicture(picture: usize, width: i32, height: i32, out: usize): void {
  const row = <usize>width << 4;
  const quarter = f32x4.splat(0.25);
  for (let y = 0; y < height >> 1; y++) {
    let at = picture + <usize>(2 * y) * row;
    for (let x = 0; x < width >> 1; x++, at += 32, out += 16) {
      const upper = f32x4.add(v128.load(at), v128.load(at, 16));
      const lower = f32x4.add(v128.load(at + row), v128.load(at + row, 16));
      v128.store(out, f32x4.mul(f32x4.add(upper, lower), quarter));
    }
  }
}

// @ts-ignore: decorator
@inline
function threeAcross(row: usize, before: usize, at: usize, after: usize): v128 {
  return f32x4.add(f32x4.add(v128.load(row + before), v128.load(row + at)), v128.load(row + after));
}

/** The mean of the 3 × 3 about each pixel; beyond the border the last pixel repeats. */
export function smoothPicture(picture: usize, width: i32, height: i32, out: usize): void {
  const row = <usize>width << 4;
  const last = row - 16;
  const ninth = f32x4.splat(1.0 / 9.0);
  for (let y = 0; y < height; y++) {
    const middle = picture + <usize>y * row;
    const above = y == 0 ? middle : middle - row;
    const below = y == height - 1 ? middle : middle + row;
    for (let at: usize = 0; at < row; at += 16, out += 16) {
      const before = at == 0 ? at : at - 16;
      const after = at == last ? at : at + 16;
      const sum = f32x4.add(f32x4.add(threeAcross(above, before, at, after), threeAcross(middle, before, at, after)), threeAcross(below, before, at, after));
      v128.store(out, f32x4.mul(sum, ninth));
    }
  }
}

/** Central differences of the channel that changes most at each pixel, and their length, in three planes; none on the border. */
export function pictureGradient(picture: usize, width: i32, height: i32, gx: usize, gy: usize, magnitude: usize): void {
  const bytes = <usize>(width * height) << 2;
  memory.fill(gx, 0, bytes);
  memory.fill(gy, 0, bytes);
  memory.fill(magnitude, 0, bytes);
  const row = <usize>width << 4;
  const half = f32x4.splat(0.5);
  for (let y = 1; y < height - 1; y++) {
    let to = <usize>(y * width + 1) << 2;
    let at = picture + (to << 2);
    for (let x = 1; x < width - 1; x++, at += 16, to += 4) {
      const across = f32x4.mul(f32x4.sub(v128.load(at + 16), v128.load(at - 16)), half);
      const down = f32x4.mul(f32x4.sub(v128.load(at + row), v128.load(at - row)), half);
      const steep = f32x4.add(f32x4.mul(across, across), f32x4.mul(down, down));
      let best = f32x4.extract_lane(steep, 0);
      let bestX = f32x4.extract_lane(across, 0);
      let bestY = f32x4.extract_lane(down, 0);
      const redGreen = f32x4.extract_lane(steep, 1);
      if (redGreen > best) {
        best = redGreen;
        bestX = f32x4.extract_lane(across, 1);
        bestY = f32x4.extract_lane(down, 1);
      }
      const yellowBlue = f32x4.extract_lane(steep, 2);
      if (yellowBlue > best) {
        best = yellowBlue;
        bestX = f32x4.extract_lane(across, 2);
        bestY = f32x4.extract_lane(down, 2);
      }
      store<f32>(gx + to, bestX);
      store<f32>(gy + to, bestY);
      store<f32>(magnitude + to, sqrt<f32>(best));
    }
  }
}
