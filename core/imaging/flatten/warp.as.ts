// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of flattenPage.ts, all channels of a pixel at once. Places are 32-bit floats.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** A weight of one, in the whole numbers that weigh pixels. */
const ONE = 256;
/** White, weighed twice: what lies beyond the photo. */
const PAPER_WHITE = 255 * ONE * ONE;

/**
 * Where a homography (nine 64-bit floats, row by row) takes `count` places of a row, x from `first` on by `step`. One more
 * place than asked for may be written.
 */
export function projectRow(homography: usize, y: f64, first: f64, step: f64, count: i32, xs: usize, ys: usize): void {
  const acrossX = f64x2.splat(load<f64>(homography));
  const acrossY = f64x2.splat(load<f64>(homography, 24));
  const acrossW = f64x2.splat(load<f64>(homography, 48));
  const startX = f64x2.splat(load<f64>(homography, 8) * y + load<f64>(homography, 16));
  const startY = f64x2.splat(load<f64>(homography, 32) * y + load<f64>(homography, 40));
  const startW = f64x2.splat(load<f64>(homography, 56) * y + load<f64>(homography, 64));
  const one = f64x2.splat(1);
  for (let k = 0; k < count; k += 2) {
    const x = f64x2.replace_lane(f64x2.splat(first + k * step), 1, first + (k + 1) * step);
    const over = f64x2.div(one, f64x2.add(f64x2.mul(acrossW, x), startW));
    const at = <usize>k << 2;
    v128.store64_lane(xs + at, f32x4.demote_f64x2_zero(f64x2.mul(f64x2.add(f64x2.mul(acrossX, x), startX), over)), 0);
    v128.store64_lane(ys + at, f32x4.demote_f64x2_zero(f64x2.mul(f64x2.add(f64x2.mul(acrossY, x), startY), over)), 0);
  }
}

/**
 * Where a mesh takes `count` places of a row: bilinear between its nodes, `cells` + 1 a row, each two 64-bit floats (x, y).
 * The row lies at `at`, its places from `first` on by `step`, all in cells; none lies in front of the first node.
 */
export function meshRow(mesh: usize, cells: i32, at: f64, first: f64, step: f64, count: i32, xs: usize, ys: usize): void {
  const stride = <usize>(cells + 1) << 4;
  const above = min<i32>(cells - 1, <i32>at);
  const down = f64x2.splat(at - <f64>above);
  const row = mesh + <usize>above * stride;
  for (let k = 0; k < count; k++) {
    const along = first + k * step;
    const left = min<i32>(cells - 1, <i32>along);
    const right = f64x2.splat(along - <f64>left);
    const node = row + (<usize>left << 4);
    const next = node + stride;
    const upper = v128.load(node);
    const lower = v128.load(next);
    const top = f64x2.add(upper, f64x2.mul(f64x2.sub(v128.load(node, 16), upper), right));
    const foot = f64x2.add(lower, f64x2.mul(f64x2.sub(v128.load(next, 16), lower), right));
    const place = f32x4.demote_f64x2_zero(f64x2.add(top, f64x2.mul(f64x2.sub(foot, top), down)));
    store<f32>(xs + (<usize>k << 2), f32x4.extract_lane(place, 0));
    store<f32>(ys + (<usize>k << 2), f32x4.extract_lane(place, 1));
  }
}

/** The least of `count` values. */
export function smallestOf(values: usize, count: i32): f32 {
  let found = f32(Infinity);
  for (let at = values, end = values + (<usize>count << 2); at < end; at += 4) found = min<f32>(found, load<f32>(at));
  return found;
}

/** The largest of `count` values. */
export function largestOf(values: usize, count: i32): f32 {
  let found = f32(-Infinity);
  for (let at = values, end = values + (<usize>count << 2); at < end; at += 4) found = max<f32>(found, load<f32>(at));
  return found;
}

/**
 * What a photo of `photoWidth` × `photoHeight` shows in a tile of the page, bilinear, three bytes a pixel; beyond the photo
 * there is paper. Of the photo a part lies at `part`, rows of `partWidth` px of `channels` bytes, from (left, top) of the
 * photo on. Each pixel is the mean of perSide × perSide places (xs, ys: px of the photo, row by row).
 */
export function sampleTile(part: usize, left: i32, top: i32, partWidth: i32, channels: i32, photoWidth: i32, photoHeight: i32, xs: usize, ys: usize, width: i32, height: i32, perSide: i32, out: usize): void {
  const stride = partWidth * channels;
  const lastX = <f32>(photoWidth - 1);
  const lastY = <f32>(photoHeight - 1);
  // each channel beside the same of the pixel to the right
  const pairs = channels == 3 ? i8x16(0, 3, 1, 4, 2, 5, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1) : i8x16(0, 4, 1, 5, 2, 6, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1);
  const shift = 16 + 2 * (perSide - 1);
  const half = i32x4.splat(1 << (shift - 1));
  const row = <usize>(width * perSide) << 2;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = half;
      for (let v = 0; v < perSide; v++) {
        const first = <usize>(y * perSide + v) * row + (<usize>(x * perSide) << 2);
        for (let u = 0; u < perSide; u++) {
          const at = first + (<usize>u << 2);
          let px = load<f32>(xs + at) - 0.5;
          let py = load<f32>(ys + at) - 0.5;
          if (!(px >= -1.5 && py >= -1.5 && px <= lastX + 1.5 && py <= lastY + 1.5)) {
            sum = i32x4.add(sum, i32x4.splat(PAPER_WHITE));
            continue;
          }
          px = min<f32>(max<f32>(px, 0), lastX);
          py = min<f32>(max<f32>(py, 0), lastY);
          const xi = <i32>px;
          const yi = <i32>py;
          // on the last column and row what is behind them has no weight
          const fx = <i32>((px - <f32>xi) * <f32>ONE + 0.5);
          const fy = <i32>((py - <f32>yi) * <f32>ONE + 0.5);
          const from = part + <usize>((yi - top) * stride + (xi - left) * channels);
          const across = i32x4.splat((fx << 16) | (ONE - fx));
          const upper = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(i8x16.swizzle(v128.load64_zero(from), pairs)), across);
          const lower = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(i8x16.swizzle(v128.load64_zero(from + <usize>stride), pairs)), across);
          sum = i32x4.add(sum, i32x4.add(i32x4.mul(upper, i32x4.splat(ONE - fy)), i32x4.mul(lower, i32x4.splat(fy))));
        }
      }
      const mean = i32x4.shr_u(sum, shift);
      store<u8>(out, <u8>i32x4.extract_lane(mean, 0));
      store<u8>(out, <u8>i32x4.extract_lane(mean, 1), 1);
      store<u8>(out, <u8>i32x4.extract_lane(mean, 2), 2);
      out += 3;
    }
  }
}
