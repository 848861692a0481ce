// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of press.ts.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/**
 * How much deeper each pixel is than it must be to be ink, as 32-bit floats: its depth less the lesser of ridge and
 * near × share / 256, but no less than floor; bytes all, fifteen to spare behind each row and 64 behind `over`.
 * @returns not 0 where any is 0 or more
 */
export function strokeExcessRow(depth: usize, floor: usize, ridge: usize, near: usize, share: i32, count: i32, over: usize): i32 {
  const weight = i16x8.splat(<i16>share);
  let ink = 0;
  for (let i = 0; i < count; i += 16, over += 64) {
    const deepest = v128.load(near + i);
    const low = i16x8.shr_u(i16x8.mul(i16x8.extend_low_i8x16_u(deepest), weight), 8);
    const high = i16x8.shr_u(i16x8.mul(i16x8.extend_high_i8x16_u(deepest), weight), 8);
    const least = i8x16.max_u(i8x16.min_u(v128.load(ridge + i), i8x16.narrow_i16x8_u(low, high)), v128.load(floor + i));
    const own = v128.load(depth + i);
    const left = count - i;
    ink |= i8x16.bitmask(i8x16.ge_u(own, least)) & (left < 16 ? (1 << left) - 1 : 0xffff);
    const first = i16x8.sub(i16x8.extend_low_i8x16_u(own), i16x8.extend_low_i8x16_u(least));
    const second = i16x8.sub(i16x8.extend_high_i8x16_u(own), i16x8.extend_high_i8x16_u(least));
    v128.store(over, f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(first)));
    v128.store(over, f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(first)), 16);
    v128.store(over, f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(second)), 32);
    v128.store(over, f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(second)), 48);
  }
  return ink;
}

/** 0 where the line is 0 or more, else 255, read at `count` places: between lefts[x] (32-bit integers) and the value after it, by shares[x]. */
export function cutStrokeRow(line: usize, lefts: usize, shares: usize, count: i32, out: usize): void {
  for (let x = 0; x < count; x++, lefts += 4, shares += 4) {
    const at = line + (<usize>load<i32>(lefts) << 2);
    const left = load<f32>(at);
    store<u8>(out + x, left + (load<f32>(at, 4) - left) * load<f32>(shares) >= 0 ? 0 : 255);
  }
}
