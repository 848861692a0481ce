// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of paperShare.ts and scaleByLightness.ts, four numbers at a time. Gains are 32-bit floats.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** plane = level / plane, in place; it has three values to spare. */
export function invertPlane(plane: usize, count: i32, level: f32): void {
  const over = f32x4.splat(level);
  for (let at = plane, end = plane + (<usize>count << 2); at < end; at += 16) v128.store(at, f32x4.div(over, v128.load(at)));
}

/** The same for what counts as white: plane × (1 - below × noise), that share kept between least and most. */
export function invertToWhite(plane: usize, noise: usize, count: i32, level: f32, below: f32, least: f32, most: f32): void {
  const over = f32x4.splat(level);
  const one = f32x4.splat(1);
  for (let i: usize = 0; i < <usize>count << 2; i += 16) {
    const share = f32x4.sub(one, f32x4.mul(f32x4.splat(below), v128.load(noise + i)));
    v128.store(plane + i, f32x4.div(over, f32x4.mul(v128.load(plane + i), f32x4.min(f32x4.splat(most), f32x4.max(f32x4.splat(least), share)))));
  }
}

/** plane × table[the whole part of lightness, at most 256], in place. */
export function scaleByLightness(plane: usize, lightness: usize, count: i32, table: usize): void {
  for (let i: usize = 0; i < <usize>count << 2; i += 4) {
    const level = min(256, <i32>load<f32>(lightness + i));
    store<f32>(plane + i, load<f32>(plane + i) * load<f32>(table + (<usize>level << 2)));
  }
}

// @ts-ignore: decorator
@inline
function scaled(bytes: v128, gains: usize): v128 {
  return i32x4.trunc_sat_f32x4_u(f32x4.nearest(f32x4.mul(f32x4.convert_i32x4_u(bytes), v128.load(gains))));
}

/** out = samples × gains, rounded and cut off at 255; sixteen bytes (and gains) to spare behind each. */
export function scaleRow(samples: usize, gains: usize, count: i32, out: usize): void {
  for (let i: usize = 0; i < <usize>count; i += 16) {
    const bytes = v128.load(samples + i);
    const low = i16x8.extend_low_i8x16_u(bytes);
    const high = i16x8.extend_high_i8x16_u(bytes);
    const at = gains + (i << 2);
    const a = scaled(i32x4.extend_low_i16x8_u(low), at);
    const b = scaled(i32x4.extend_high_i16x8_u(low), at + 16);
    const c = scaled(i32x4.extend_low_i16x8_u(high), at + 32);
    const d = scaled(i32x4.extend_high_i16x8_u(high), at + 48);
    v128.store(out + i, i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_u(a, b), i16x8.narrow_i32x4_u(c, d)));
  }
}

/** out[x] = the sum over a pixel's three channels of sample × gain, rounded and cut off at 255. */
export function mixChannels(samples: usize, gains: usize, count: i32, out: usize): void {
  for (let x = 0; x < count; x++, samples += 3, gains += 12) {
    const sum = <f32>load<u8>(samples) * load<f32>(gains) + <f32>load<u8>(samples, 1) * load<f32>(gains, 4) + <f32>load<u8>(samples, 2) * load<f32>(gains, 8);
    store<u8>(out + x, <u8>min<f32>(255, nearest<f32>(sum)));
  }
}

/** noise becomes where paper lies once white is at `level`: level / (1 - below × noise), that share kept between least and most. */
export function paperTops(noise: usize, count: i32, level: f32, below: f32, least: f32, most: f32): void {
  const one = f32x4.splat(1);
  for (let at = noise, end = noise + (<usize>count << 2); at < end; at += 16) {
    const share = f32x4.sub(one, f32x4.mul(f32x4.splat(below), v128.load(at)));
    v128.store(at, f32x4.div(f32x4.splat(level), f32x4.min(f32x4.splat(most), f32x4.max(f32x4.splat(least), share))));
  }
}

// @ts-ignore: decorator
@inline
function lightAt(linear: usize, coded: f32): f32 {
  return load<f32>(linear + (<usize>min<f32>(1024, 4 * coded) << 2));
}

/**
 * Adds what a row's pixels miss from the paper's light (255 for all of it), channel by channel, to cells of 2^shift px; what
 * differs from the paper (tops) by less than `tolerance` in every channel, as coded, is paper. Brighter than paper counts
 * against it. `linear` has the light of coded values 0 to 256 in quarter steps.
 */
export function sumAbsorbed(samples: usize, gains: usize, tops: usize, width: i32, shift: i32, tolerance: f32, linear: usize, reds: usize, greens: usize, blues: usize): void {
  for (let x = 0; x < width; x++, samples += 3, gains += 12) {
    const top = load<f32>(tops + (<usize>x << 2));
    const red = <f32>load<u8>(samples);
    const green = <f32>load<u8>(samples, 1);
    const blue = <f32>load<u8>(samples, 2);
    const toRed = load<f32>(gains);
    const toGreen = load<f32>(gains, 4);
    const toBlue = load<f32>(gains, 8);
    if (max<f32>(max<f32>(abs<f32>(top - red * toRed), abs<f32>(top - green * toGreen)), abs<f32>(top - blue * toBlue)) < tolerance * top) continue;
    const cell = <usize>(x >> shift) << 2;
    store<f32>(reds + cell, load<f32>(reds + cell) + 255 - (255 * lightAt(linear, red)) / lightAt(linear, top / toRed));
    store<f32>(greens + cell, load<f32>(greens + cell) + 255 - (255 * lightAt(linear, green)) / lightAt(linear, top / toGreen));
    store<f32>(blues + cell, load<f32>(blues + cell) + 255 - (255 * lightAt(linear, blue)) / lightAt(linear, top / toBlue));
  }
}
