// AssemblyScript: the inner loop of core/flatten/flattenPage.ts, all channels of a pixel at once (WebAssembly SIMD). Compiled
// by scripts/buildKernels.mjs into ../warpKernels.ts. Pointers are bytes in the module's memory.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

const PAPER_WHITE: f32 = 255;

/** Four bytes as four 32-bit floats. */
// @ts-ignore: decorator
@inline
function pixelAt(at: usize): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at))));
}

/**
 * Adds what the source shows at `count` places (xs, ys: 32-bit floats, px), bilinear, times `share`, to a row of pixels of
 * four 32-bit floats each; 2 to the power of `halvings` places go into one pixel. The source has `channels` bytes a pixel
 * (3 or 4; of 3 the fourth float is nothing) and four bytes to spare behind it.
 */
export function addLooks(source: usize, width: i32, height: i32, channels: i32, xs: usize, ys: usize, count: i32, halvings: i32, share: f32, row: usize): void {
  const stride: i32 = width * channels;
  const lastX = <f32>(width - 1);
  const lastY = <f32>(height - 1);
  const weight = f32x4.splat(share);
  const white = f32x4.splat(PAPER_WHITE * share);
  for (let k = 0; k < count; k++) {
    const to = row + (<usize>(k >> halvings) << 4);
    let x = load<f32>(xs + (<usize>k << 2)) - 0.5;
    let y = load<f32>(ys + (<usize>k << 2)) - 0.5;
    if (!(x >= -1.5 && y >= -1.5 && x <= lastX + 1.5 && y <= lastY + 1.5)) {
      v128.store(to, f32x4.add(v128.load(to), white));
      continue;
    }
    x = min<f32>(max<f32>(x, 0), lastX);
    y = min<f32>(max<f32>(y, 0), lastY);
    const xi = <i32>x;
    const yi = <i32>y;
    const at = source + <usize>(yi * stride + xi * channels);
    const right = <usize>(xi < width - 1 ? channels : <i32>0);
    const below = <usize>(yi < height - 1 ? stride : <i32>0);
    const across = f32x4.splat(x - <f32>xi);
    const a = pixelAt(at);
    const c = pixelAt(at + below);
    const upper = f32x4.add(a, f32x4.mul(f32x4.sub(pixelAt(at + right), a), across));
    const lower = f32x4.add(c, f32x4.mul(f32x4.sub(pixelAt(at + below + right), c), across));
    const seen = f32x4.add(upper, f32x4.mul(f32x4.sub(lower, upper), f32x4.splat(y - <f32>yi)));
    v128.store(to, f32x4.add(v128.load(to), f32x4.mul(seen, weight)));
  }
}

/** Rounds a row of pixels of four floats to three bytes each. */
export function storeRow(row: usize, count: i32, out: usize): void {
  for (let k = 0; k < count; k++) {
    const rounded = i32x4.trunc_sat_f32x4_u(f32x4.nearest(v128.load(row + (<usize>k << 4))));
    const to = out + <usize>(k * 3);
    store<u8>(to, <u8>min(255, i32x4.extract_lane(rounded, 0)));
    store<u8>(to + 1, <u8>min(255, i32x4.extract_lane(rounded, 1)));
    store<u8>(to + 2, <u8>min(255, i32x4.extract_lane(rounded, 2)));
  }
}
