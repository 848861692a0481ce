// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of restoreCoverage.ts. Pixels and depths are bytes, all else 32-bit floats.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

import { LUMA_BLUE, LUMA_GREEN, LUMA_RED } from '../raster/luma.as';

// @ts-ignore: decorator
@inline
function linearOf(table: usize, sample: u8): f32 {
  return load<f32>(table + (<usize>sample << 2));
}

/** How much linear light each of some pixels misses from white, 0 to 255. */
export function depthOf(pixels: usize, count: i32, channels: i32, linear: usize, depth: usize): void {
  for (let i = 0; i < count; i++, pixels += channels) {
    const red = load<u8>(pixels);
    if (channels == 1) {
      store<u8>(depth + i, red == 255 ? 0 : <u8>nearest<f32>(255 - 255 * linearOf(linear, red)));
      continue;
    }
    const green = load<u8>(pixels, 1);
    const blue = load<u8>(pixels, 2);
    // most of a page is bare
    if ((red & green & blue) == 255) {
      store<u8>(depth + i, 0);
      continue;
    }
    store<u8>(depth + i, <u8>nearest<f32>(255 - 255 * (LUMA_RED * linearOf(linear, red) + LUMA_GREEN * linearOf(linear, green) + LUMA_BLUE * linearOf(linear, blue))));
  }
}

/** Turns sums into what full coverage takes away in each channel beside the lightness, and `most` into the coverage at which a channel is all but gone. */
export function inkShares(red: usize, green: usize, blue: usize, most: usize, count: i32, neutralTo: f32, colouredFrom: f32, deepest: f32): void {
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  for (let i: usize = 0; i < <usize>count << 2; i += 16) {
    const r = f32x4.max(zero, v128.load(red + i));
    const g = f32x4.max(zero, v128.load(green + i));
    const b = f32x4.max(zero, v128.load(blue + i));
    const lightness = f32x4.add(f32x4.add(f32x4.mul(r, f32x4.splat(LUMA_RED)), f32x4.mul(g, f32x4.splat(LUMA_GREEN))), f32x4.mul(b, f32x4.splat(LUMA_BLUE)));
    // where next to nothing is missing, what is has no colour
    const over = f32x4.div(one, f32x4.max(one, lightness));
    const offRed = f32x4.mul(f32x4.sub(r, lightness), over);
    const offGreen = f32x4.mul(f32x4.sub(g, lightness), over);
    const offBlue = f32x4.mul(f32x4.sub(b, lightness), over);
    const colour = f32x4.max(f32x4.max(f32x4.abs(offRed), f32x4.abs(offGreen)), f32x4.abs(offBlue));
    const share = f32x4.div(f32x4.sub(colour, f32x4.splat(neutralTo)), f32x4.splat(colouredFrom - neutralTo));
    const gain = f32x4.min(one, f32x4.max(zero, share));
    const redShare = f32x4.add(one, f32x4.mul(gain, offRed));
    const greenShare = f32x4.add(one, f32x4.mul(gain, offGreen));
    const blueShare = f32x4.add(one, f32x4.mul(gain, offBlue));
    v128.store(red + i, redShare);
    v128.store(green + i, greenShare);
    v128.store(blue + i, blueShare);
    v128.store(most + i, f32x4.div(f32x4.splat(deepest), f32x4.max(f32x4.max(redShare, greenShare), blueShare)));
  }
}

// @ts-ignore: decorator
@inline
function codedOf(table: usize, steps: f32, light: f32): u8 {
  return load<u8>(table + <usize>(<i32>(min<f32>(1, max<f32>(0, light)) * steps)));
}

/**
 * A row of pixels with their coverage restored. `firmed` has 1025 coverages by sharpened depth, `coded` a byte for each of
 * `steps` + 1 steps of linear light; red, green, blue and most are the row's cells.
 */
export function restoreRow(pixels: usize, depth: usize, smooth: usize, width: i32, channels: i32, sharpened: f32, firmed: usize, coded: usize, steps: i32, red: usize, green: usize, blue: usize, most: usize, shift: i32): void {
  const perLight = <f32>steps;
  for (let x = 0; x < width; x++, pixels += channels) {
    const seen = <f32>load<u8>(depth + x);
    if (seen == 0) continue;
    const sharp = min<f32>(255, max<f32>(0, seen + sharpened * (seen - <f32>load<u8>(smooth + x))));
    let cover = load<f32>(firmed + (<usize>(<i32>(sharp * <f32>4.0157)) << 2));
    if (channels == 1) {
      store<u8>(pixels, codedOf(coded, perLight, 1 - cover));
      continue;
    }
    const cell = <usize>(x >> shift) << 2;
    // no channel is taken away wholly: that would turn the hue
    cover = min<f32>(cover, load<f32>(most + cell));
    store<u8>(pixels, codedOf(coded, perLight, 1 - cover * load<f32>(red + cell)));
    store<u8>(pixels, codedOf(coded, perLight, 1 - cover * load<f32>(green + cell)), 1);
    store<u8>(pixels, codedOf(coded, perLight, 1 - cover * load<f32>(blue + cell)), 2);
  }
}
