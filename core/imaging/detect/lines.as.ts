// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of edgePoints.ts, lineProposals.ts and lineProfile.ts. A picture is as colour.as.ts has it.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/**
 * The pixels, two from the border or further in, at which the gradient is no weaker than `least` nor than on either side
 * along its direction: x, y, unit normal and weight, each in a plane of its own of `room` 32-bit floats.
 * @returns how many
 */
export function gradientMaxima(gx: usize, gy: usize, magnitude: usize, width: i32, height: i32, least: f32, room: i32, out: usize): i32 {
  const plane = <usize>room << 2;
  const steep: f32 = 2.414; // half way between two of eight directions
  let to = out;
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2; x < width - 2; x++) {
      const at = <usize>(y * width + x) << 2;
      const m = load<f32>(magnitude + at);
      if (m < least) continue;
      const run = load<f32>(gx + at);
      const rise = load<f32>(gy + at);
      const across = abs<f32>(run);
      const down = abs<f32>(rise);
      const step = <usize>(across > down * steep ? 1 : down > across * steep ? width : run * rise > 0 ? width + 1 : width - 1) << 2;
      if (m < load<f32>(magnitude + at - step) || m <= load<f32>(magnitude + at + step)) continue;
      store<f32>(to, <f32>x + 0.5);
      store<f32>(to + plane, <f32>y + 0.5);
      store<f32>(to + 2 * plane, run / m);
      store<f32>(to + 3 * plane, rise / m);
      store<f32>(to + 4 * plane, m / (m + 5));
      to += 4;
    }
  }
  return <i32>((to - out) >> 2);
}

/** Directions that lines are told apart by, in half a turn. */
const ANGLE_BINS: i32 = 180;

/**
 * Lets points, as gradientMaxima leaves them, vote for the lines through them that face their way or up to two bins off it.
 * @param angles - cosine and sine of each direction, 64-bit floats
 * @param votes - ANGLE_BINS × rhoBins 32-bit floats, 0 so far; bins are two px wide, the first at -reach
 * @param starts - where each direction's points begin in `order`, and one more; both 32-bit integers, starts 0 so far
 * @param facing - room for a byte a point
 */
export function voteForLines(points: usize, room: i32, count: i32, angles: usize, rhoBins: i32, reach: f64, votes: usize, starts: usize, order: usize, facing: usize): void {
  const plane = <usize>room << 2;
  const perRadian = <f32>(<f64>ANGLE_BINS / Math.PI);
  for (let i: usize = 0; i < <usize>count; i++) {
    const at = points + (i << 2);
    const x = <f64>load<f32>(at);
    const y = <f64>load<f32>(at + plane);
    const weight = load<f32>(at + 4 * plane);
    let angle = Mathf.atan2(load<f32>(at + 3 * plane), load<f32>(at + 2 * plane)) * perRadian;
    if (angle < 0) angle += <f32>ANGLE_BINS;
    const middle = <i32>(angle + 0.5);
    const own = middle >= ANGLE_BINS ? middle - ANGLE_BINS : middle;
    store<u8>(facing + i, <u8>own);
    const next = starts + (<usize>(own + 1) << 2);
    store<i32>(next, load<i32>(next) + 1);
    for (let d = -2; d <= 2; d++) {
      const turned = middle + d;
      const k = turned < 0 ? turned + ANGLE_BINS : turned >= ANGLE_BINS ? turned - ANGLE_BINS : turned;
      const direction = angles + (<usize>k << 4);
      const bin = (x * load<f64>(direction) + y * load<f64>(direction, 8) + reach) / 2;
      const low = <i32>bin; // never below 0
      const share = <f32>(bin - <f64>low);
      const w = weight * (d == 0 ? 1 : d == 1 || d == -1 ? <f32>0.8 : <f32>0.5);
      const cell = votes + (<usize>(k * rhoBins + low) << 2);
      store<f32>(cell, load<f32>(cell) + w * (1 - share));
      store<f32>(cell, load<f32>(cell, 4) + w * share, 4);
    }
  }
  for (let k: usize = 0; k < <usize>ANGLE_BINS; k++) store<i32>(starts + 4 * k, load<i32>(starts + 4 * k) + load<i32>(starts + 4 * k, 4), 4);
  // each start moves on as its points are put in place, to where the next one's are: it is then moved back
  for (let i: usize = 0; i < <usize>count; i++) {
    const start = starts + (<usize>load<u8>(facing + i) << 2);
    store<i32>(order + (<usize>load<i32>(start) << 2), <i32>i);
    store<i32>(start, load<i32>(start) + 1);
  }
  for (let k: usize = <usize>ANGLE_BINS; k > 0; k--) store<i32>(starts + 4 * k, load<i32>(starts + 4 * k - 4));
  store<i32>(starts, 0);
}

/** Weighted sums (1, x, y, xx, xy, yy; 64-bit floats) over the points order[from..to] within three px of a line, added to what is there. */
export function lineSums(points: usize, room: i32, order: usize, from: i32, to: i32, nx: f64, ny: f64, rho: f64, sums: usize): void {
  const plane = <usize>room << 2;
  let sw: f64 = 0;
  let sx: f64 = 0;
  let sy: f64 = 0;
  let sxx: f64 = 0;
  let sxy: f64 = 0;
  let syy: f64 = 0;
  for (let k = from; k < to; k++) {
    const at = points + (<usize>load<i32>(order + (<usize>k << 2)) << 2);
    const x = <f64>load<f32>(at);
    const y = <f64>load<f32>(at + plane);
    if (Math.abs(x * nx + y * ny - rho) > 3) continue;
    const w = <f64>load<f32>(at + 4 * plane);
    sw += w;
    sx += w * x;
    sy += w * y;
    sxx += w * x * x;
    sxy += w * x * y;
    syy += w * y * y;
  }
  store<f64>(sums, load<f64>(sums) + sw);
  store<f64>(sums, load<f64>(sums, 8) + sx, 8);
  store<f64>(sums, load<f64>(sums, 16) + sy, 16);
  store<f64>(sums, load<f64>(sums, 24) + sxx, 24);
  store<f64>(sums, load<f64>(sums, 32) + sxy, 32);
  store<f64>(sums, load<f64>(sums, 40) + syy, 40);
}

// @ts-ignore: decorator
@inline
function pixelAt(x: f64, y: f64, width: i32, height: i32): usize {
  const column = x < 0 ? 0 : x >= <f64>width ? width - 1 : <i32>x;
  const line = y < 0 ? 0 : y >= <f64>height ? height - 1 : <i32>y;
  return <usize>(line * width + column);
}

/** A side may bow or the line be slightly off: the edge is looked for this far to either side, px. */
const SEARCH_PX: i32 = 3;
/** Strips beside a line are read from here, px: beyond the blur of the edge itself. */
const NEAR_STRIP_PX: f64 = 2.5;
/** And to here, px: near enough to be the same desk. */
const FAR_STRIP_PX: f64 = 4.5;
/** Over so many px to either side along a line, paper is even; a woven or checked pattern is not on either side of its lines. */
const SMOOTH_REACH_PX: i32 = 9;
/** Variance along the line, in squared levels, at which evenness counts half. */
const SMOOTH_VARIANCE: f64 = 110;

/** How little the lightness varies along a strip around place k, from its running sums and squares, beside how light it is. */
// @ts-ignore: decorator
@inline
function unevenness(sums: usize, squares: usize, from: i32, to: i32): f64 {
  const n = <f64>(to - from);
  const mean = <f64>(load<f32>(sums + (<usize>to << 2)) - load<f32>(sums + (<usize>from << 2))) / n;
  const variance = (load<f64>(squares + (<usize>to << 3)) - load<f64>(squares + (<usize>from << 3))) / n - mean * mean;
  return Math.max(0, variance) / (1 + mean / 60);
}

/**
 * What lies along the line x·nx + y·ny = rho from position `start` on, as running sums of length + 1 floats each, one
 * after another: the step seen, then lightness, red-green and yellow-blue of the strip on the side the normal points to,
 * then those of the other strip.
 * @param squares - room for 2 × (length + 1) 64-bit floats
 */
export function readLine(picture: usize, width: i32, height: i32, gx: usize, gy: usize, nx: f64, ny: f64, rho: f64, border: bool, start: i32, length: i32, out: usize, squares: usize): void {
  const bytes = <usize>(length + 1) << 2;
  const squaresBelow = squares + 2 * bytes;
  for (let k: usize = 0; k < 7; k++) store<f32>(out + k * bytes, 0);
  store<f64>(squares, 0);
  store<f64>(squaresBelow, 0);
  let above = f32x4.splat(0);
  let below = f32x4.splat(0);
  const half = f32x4.splat(0.5);
  for (let k = 0; k < length; k++) {
    const t = <f64>(start + k);
    const x = rho * nx - t * ny;
    const y = rho * ny + t * nx;
    let offset: f64 = 0;
    let slope: f64 = 0;
    if (!border) {
      for (let o = -SEARCH_PX; o <= SEARCH_PX; o++) {
        const i = pixelAt(x + nx * <f64>o, y + ny * <f64>o, width, height) << 2;
        const across = Math.abs(<f64>load<f32>(gx + i) * nx + <f64>load<f32>(gy + i) * ny) * (1 - 0.06 * <f64>abs(o));
        if (across > slope) {
          slope = across;
          offset = <f64>o;
        }
      }
    }
    const plusNear = v128.load(picture + (pixelAt(x + nx * (offset + NEAR_STRIP_PX), y + ny * (offset + NEAR_STRIP_PX), width, height) << 4));
    const plusFar = v128.load(picture + (pixelAt(x + nx * (offset + FAR_STRIP_PX), y + ny * (offset + FAR_STRIP_PX), width, height) << 4));
    const minusNear = v128.load(picture + (pixelAt(x + nx * (offset - NEAR_STRIP_PX), y + ny * (offset - NEAR_STRIP_PX), width, height) << 4));
    const minusFar = v128.load(picture + (pixelAt(x + nx * (offset - FAR_STRIP_PX), y + ny * (offset - FAR_STRIP_PX), width, height) << 4));
    const plus = f32x4.mul(f32x4.add(plusNear, plusFar), half);
    const minus = f32x4.mul(f32x4.add(minusNear, minusFar), half);
    const apart = f32x4.sub(plus, minus);
    const squared = f32x4.mul(apart, apart);
    const contrast = Math.sqrt(<f64>(f32x4.extract_lane(squared, 0) + f32x4.extract_lane(squared, 1) + f32x4.extract_lane(squared, 2)));
    above = f32x4.add(above, plus);
    below = f32x4.add(below, minus);
    const at = out + (<usize>(k + 1) << 2);
    // what is seen waits here until the strips are known further along
    store<f32>(at, border ? 0 : <f32>((contrast / (contrast + 8)) * (slope / (slope + 1.5))));
    v128.store32_lane(at + bytes, above, 0);
    v128.store32_lane(at + 2 * bytes, above, 1);
    v128.store32_lane(at + 3 * bytes, above, 2);
    v128.store32_lane(at + 4 * bytes, below, 0);
    v128.store32_lane(at + 5 * bytes, below, 1);
    v128.store32_lane(at + 6 * bytes, below, 2);
    const square = <usize>k << 3;
    const plusL = <f64>f32x4.extract_lane(plus, 0);
    const minusL = <f64>f32x4.extract_lane(minus, 0);
    store<f64>(squares + square + 8, load<f64>(squares + square) + plusL * plusL);
    store<f64>(squaresBelow + square + 8, load<f64>(squaresBelow + square) + minusL * minusL);
  }
  let sum: f32 = 0;
  for (let k = 0; k < length; k++) {
    const from = max(0, k - SMOOTH_REACH_PX);
    const to = min(length, k + SMOOTH_REACH_PX + 1);
    const variance = Math.min(unevenness(out + bytes, squares, from, to), unevenness(out + 4 * bytes, squaresBelow, from, to));
    const at = out + (<usize>(k + 1) << 2);
    sum += <f32>(<f64>load<f32>(at) / (1 + variance / SMOOTH_VARIANCE));
    store<f32>(at, sum);
  }
}
