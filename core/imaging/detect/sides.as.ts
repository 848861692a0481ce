// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of edgeProfile.ts and refineOutline.ts. A picture is as colour.as.ts has it.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

// @ts-ignore: decorator
@inline
function sampleAt(picture: usize, width: i32, height: i32, x: f64, y: f64): v128 {
  const px = Math.min(<f64>width - 1.001, Math.max(0, x - 0.5));
  const py = Math.min(<f64>height - 1.001, Math.max(0, y - 0.5));
  const column = <i32>px;
  const line = <i32>py;
  const fx = f32x4.splat(<f32>(px - <f64>column));
  const fy = f32x4.splat(<f32>(py - <f64>line));
  const at = picture + (<usize>(line * width + column) << 4);
  const row = <usize>width << 4;
  const upper = f32x4.add(v128.load(at), f32x4.mul(fx, f32x4.sub(v128.load(at, 16), v128.load(at))));
  const lower = f32x4.add(v128.load(at + row), f32x4.mul(fx, f32x4.sub(v128.load(at + row, 16), v128.load(at + row))));
  return f32x4.add(upper, f32x4.mul(fy, f32x4.sub(lower, upper)));
}

/** The profile is a mean of two beside one another along the edge, px apart from it: noise goes, the edge stays. */
const ALONG_PX: f64 = 0.9;
/** How far to either side a step is correlated, px. */
const STEP_HALF: i32 = 3;
/** Levels of response to a step of one level. */
const STEP_GAIN: f32 = 2.7;

/**
 * Correlates the profile through (x, y) along the normal with a step, at each whole px from -reach to reach.
 * @param profile - room for 2 × (reach + 3) + 1 pixels
 * @param response - its strength; `towards` - the share of it that is getting lighter along the normal
 */
export function edgeProfile(picture: usize, width: i32, height: i32, x: f64, y: f64, nx: f64, ny: f64, reach: i32, profile: usize, response: usize, towards: usize): void {
  const half = f32x4.splat(0.5);
  const span = reach + STEP_HALF;
  let to = profile;
  for (let k = -span; k <= span; k++, to += 16) {
    const px = x + nx * <f64>k;
    const py = y + ny * <f64>k;
    const before = sampleAt(picture, width, height, px + ny * ALONG_PX, py - nx * ALONG_PX);
    const after = sampleAt(picture, width, height, px - ny * ALONG_PX, py + nx * ALONG_PX);
    v128.store(to, f32x4.mul(f32x4.add(before, after), half));
  }
  const less = f32x4.splat(0.7);
  let at = profile + (<usize>STEP_HALF << 4);
  for (let k = 0; k <= 2 * reach; k++, at += 16, response += 4, towards += 4) {
    const near = f32x4.sub(f32x4.add(v128.load(at + 16), v128.load(at + 32)), f32x4.add(v128.load(at - 16), v128.load(at - 32)));
    const step = f32x4.add(near, f32x4.mul(less, f32x4.sub(v128.load(at + 48), v128.load(at - 48))));
    const squared = f32x4.mul(step, step);
    const length = sqrt<f32>(f32x4.extract_lane(squared, 0) + f32x4.extract_lane(squared, 1) + f32x4.extract_lane(squared, 2));
    store<f32>(response, length / STEP_GAIN);
    store<f32>(towards, length == 0 ? 0 : f32x4.extract_lane(step, 0) / length);
  }
}

/**
 * How well edges agree with the course middle + slope × x - bow × x²: the sum of the strengths of those less than
 * `tolerance` away, the nearest counting twice as much as the furthest.
 * @param count - a multiple of four; xs, offsets and strengths are 32-bit floats
 */
export function curveAgreement(xs: usize, offsets: usize, strengths: usize, count: i32, middle: f32, slope: f32, bow: f32, tolerance: f32): f32 {
  const zero = f32x4.splat(0);
  const reach = f32x4.splat(tolerance);
  const fall = f32x4.splat(0.5 / tolerance);
  const one = f32x4.splat(1);
  let sum = zero;
  for (let i: usize = 0, bytes = <usize>count << 2; i < bytes; i += 16) {
    const x = v128.load(xs + i);
    const expected = f32x4.add(f32x4.splat(middle), f32x4.mul(x, f32x4.sub(f32x4.splat(slope), f32x4.mul(f32x4.splat(bow), x))));
    const away = f32x4.abs(f32x4.sub(v128.load(offsets + i), expected));
    const counts = f32x4.mul(v128.load(strengths + i), f32x4.sub(one, f32x4.mul(away, fall)));
    sum = f32x4.add(sum, v128.and(counts, f32x4.lt(away, reach)));
  }
  return f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1) + f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3);
}

/**
 * The strength of the edges on courses between one pair of ends: for each bow the sum over the positions of the strip's sample at
 * chord + bow × arch, whole px.
 * @param strip - [samples, breadth] 32-bit floats; every course must lie in it
 * @param chord - where the straight course crosses each position, px from the row's beginning; `arch` - the same of a bow of 1
 * @param count - of bows and of sums, a multiple of four
 */
export function courseStrengths(strip: usize, breadth: i32, samples: i32, chord: usize, arch: usize, bows: usize, count: i32, sums: usize): void {
  for (let from: usize = 0, bytes = <usize>count << 2; from < bytes; from += 16) {
    const bow = v128.load(bows + from);
    let sum = f32x4.splat(0);
    let row = strip;
    for (let i: usize = 0, end = <usize>samples << 2; i < end; i += 4, row += <usize>breadth << 2) {
      const across = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.splat(load<f32>(chord + i)), f32x4.mul(bow, f32x4.splat(load<f32>(arch + i)))));
      let strengths = v128.load32_zero(row + (<usize>i32x4.extract_lane(across, 0) << 2));
      strengths = v128.load_lane<f32>(row + (<usize>i32x4.extract_lane(across, 1) << 2), strengths, 1);
      strengths = v128.load_lane<f32>(row + (<usize>i32x4.extract_lane(across, 2) << 2), strengths, 2);
      strengths = v128.load_lane<f32>(row + (<usize>i32x4.extract_lane(across, 3) << 2), strengths, 3);
      sum = f32x4.add(sum, strengths);
    }
    v128.store(sums + from, sum);
  }
}
