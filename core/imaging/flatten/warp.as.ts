// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of flattenPage.ts, all channels of a pixel at once. Places are 32-bit floats.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** A weight of one, in the whole numbers that weigh pixels. */
const ONE = 256;
/** White, weighed twice: what lies beyond the photo. */
const PAPER_WHITE = 255 * ONE * ONE;
/** Where a place beyond the photo begins. */
const BEYOND = -1;

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
  let k = 0;
  while (k < count) {
    // all the places of a cell lie on one line
    const left = min<i32>(cells - 1, <i32>(first + k * step));
    const node = row + (<usize>left << 4);
    const next = node + stride;
    const upper = v128.load(node);
    const upperRight = v128.load(node, 16);
    const from = f64x2.add(upper, f64x2.mul(f64x2.sub(v128.load(next), upper), down));
    const to = f64x2.add(upperRight, f64x2.mul(f64x2.sub(v128.load(next, 16), upperRight), down));
    const along = f64x2.sub(to, from);
    const end = left == cells - 1 ? f64(Infinity) : <f64>(left + 1);
    for (; k < count; k++) {
      const x = first + k * step;
      if (x >= end) break;
      const place = f32x4.demote_f64x2_zero(f64x2.add(from, f64x2.mul(along, f64x2.splat(x - <f64>left))));
      store<f32>(xs + (<usize>k << 2), f32x4.extract_lane(place, 0));
      store<f32>(ys + (<usize>k << 2), f32x4.extract_lane(place, 1));
    }
  }
}

/** The least of `count` values, 1 or more. */
export function smallestOf(values: usize, count: i32): f32 {
  const end = values + (<usize>count << 2);
  let at = values;
  let lanes = v128.load32_splat(at);
  for (; at + 16 <= end; at += 16) lanes = f32x4.pmin(lanes, v128.load(at));
  let found = min<f32>(min<f32>(f32x4.extract_lane(lanes, 0), f32x4.extract_lane(lanes, 1)), min<f32>(f32x4.extract_lane(lanes, 2), f32x4.extract_lane(lanes, 3)));
  for (; at < end; at += 4) found = min<f32>(found, load<f32>(at));
  return found;
}

/** The largest of `count` values, 1 or more. */
export function largestOf(values: usize, count: i32): f32 {
  const end = values + (<usize>count << 2);
  let at = values;
  let lanes = v128.load32_splat(at);
  for (; at + 16 <= end; at += 16) lanes = f32x4.pmax(lanes, v128.load(at));
  let found = max<f32>(max<f32>(f32x4.extract_lane(lanes, 0), f32x4.extract_lane(lanes, 1)), max<f32>(f32x4.extract_lane(lanes, 2), f32x4.extract_lane(lanes, 3)));
  for (; at < end; at += 4) found = max<f32>(found, load<f32>(at));
  return found;
}

/**
 * Makes of places (xs, ys: px of the photo) what a sample needs: in xs the byte of the part at which it begins, or BEYOND the
 * photo; in ys its weights across and, sixteen bits higher, down, in parts of ONE.
 */
function preparePlaces(left: i32, top: i32, stride: i32, channels: i32, photoWidth: i32, photoHeight: i32, xs: usize, ys: usize, count: i32): void {
  const half = f32x4.splat(0.5);
  const least = f32x4.splat(-1.5);
  const zero = f32x4.splat(0);
  const one = f32x4.splat(<f32>ONE);
  const lastX = f32x4.splat(<f32>(photoWidth - 1));
  const lastY = f32x4.splat(<f32>(photoHeight - 1));
  const mostX = f32x4.splat(<f32>(photoWidth - 1) + 1.5);
  const mostY = f32x4.splat(<f32>(photoHeight - 1) + 1.5);
  const origin = i32x4.splat(top * stride + left * channels);
  const strides = i32x4.splat(stride);
  const widths = i32x4.splat(channels);
  const beyond = i32x4.splat(BEYOND);
  for (let end = xs + (<usize>count << 2); xs < end; xs += 16, ys += 16) {
    const x = f32x4.sub(v128.load(xs), half);
    const y = f32x4.sub(v128.load(ys), half);
    const inside = v128.and(v128.and(f32x4.ge(x, least), f32x4.le(x, mostX)), v128.and(f32x4.ge(y, least), f32x4.le(y, mostY)));
    const px = f32x4.pmin(f32x4.pmax(x, zero), lastX);
    const py = f32x4.pmin(f32x4.pmax(y, zero), lastY);
    const xi = i32x4.trunc_sat_f32x4_s(px);
    const yi = i32x4.trunc_sat_f32x4_s(py);
    // on the last column and row what is behind them has no weight
    const fx = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.sub(px, f32x4.convert_i32x4_s(xi)), one), half));
    const fy = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(f32x4.sub(py, f32x4.convert_i32x4_s(yi)), one), half));
    const from = i32x4.sub(i32x4.add(i32x4.mul(yi, strides), i32x4.mul(xi, widths)), origin);
    v128.store(xs, v128.bitselect(from, beyond, inside));
    v128.store(ys, v128.or(fx, i32x4.shl(fy, 16)));
  }
}

/** What the photo shows at a prepared place, its channels in 32 bits each, weighed ONE × ONE. */
// @ts-ignore: decorators are AssemblyScript's
@inline
function sampleAt(part: usize, stride: usize, xs: usize, ys: usize, toTheRight: v128): v128 {
  const offset = load<i32>(xs);
  if (offset == BEYOND) return i32x4.splat(PAPER_WHITE);
  const from = part + <usize>offset;
  const weights = load<i32>(ys);
  const fx = weights & 0xffff;
  const fy = weights >>> 16;
  const upper = i16x8.mul(v128.load_ext<u8>(from), i16x8.splat(<i16>(ONE - fy)));
  const both = i16x8.add(upper, i16x8.mul(v128.load_ext<u8>(from + stride), i16x8.splat(<i16>fy)));
  const here = i32x4.extmul_low_i16x8_u(both, i16x8.splat(<i16>(ONE - fx)));
  return i32x4.add(here, i32x4.extmul_low_i16x8_u(i8x16.swizzle(both, toTheRight), i16x8.splat(<i16>fx)));
}

/** Writes the first three of four channels, and a byte behind them, after a shift to the right. */
// @ts-ignore: decorators are AssemblyScript's
@inline
function storePixel(out: usize, sum: v128, shift: i32): void {
  const words = i32x4.shr_u(sum, shift);
  const bytes = i16x8.narrow_i32x4_s(words, words);
  v128.store32_lane(out, i8x16.narrow_i16x8_u(bytes, bytes), 0);
}

/**
 * What a photo of `photoWidth` × `photoHeight` shows in a tile of the page, bilinear, three bytes a pixel; beyond the photo
 * there is paper. Of the photo a part lies at `part`, rows of `partWidth` px of `channels` bytes, from (left, top) of the
 * photo on. Each pixel is the mean of perSide × perSide places (xs, ys: px of the photo, row by row), which are used up; 1 or 2.
 */
export function sampleTile(part: usize, left: i32, top: i32, partWidth: i32, channels: i32, photoWidth: i32, photoHeight: i32, xs: usize, ys: usize, width: i32, height: i32, perSide: i32, out: usize): void {
  const stride = <usize>(partWidth * channels);
  preparePlaces(left, top, <i32>stride, channels, photoWidth, photoHeight, xs, ys, width * height * perSide * perSide);
  const toTheRight = channels == 3 ? i8x16(6, 7, 8, 9, 10, 11, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1) : i8x16(8, 9, 10, 11, 12, 13, -1, -1, -1, -1, -1, -1, -1, -1, -1, -1);
  if (perSide == 1) {
    const half = i32x4.splat(1 << 15);
    for (const end = xs + (<usize>(width * height) << 2); xs < end; xs += 4, ys += 4, out += 3)
      storePixel(out, i32x4.add(half, sampleAt(part, stride, xs, ys, toTheRight)), 16);
    return;
  }
  const half = i32x4.splat(1 << 17);
  const row = <usize>(width * 2) << 2;
  for (let y = 0; y < height; y++, xs += row, ys += row)
    for (const end = xs + row; xs < end; xs += 8, ys += 8, out += 3) {
      const upper = i32x4.add(sampleAt(part, stride, xs, ys, toTheRight), sampleAt(part, stride, xs + 4, ys + 4, toTheRight));
      const lower = i32x4.add(sampleAt(part, stride, xs + row, ys + row, toTheRight), sampleAt(part, stride, xs + row + 4, ys + row + 4, toTheRight));
      storePixel(out, i32x4.add(half, i32x4.add(upper, lower)), 18);
    }
}
