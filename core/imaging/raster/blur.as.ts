// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of boxBlur.ts and guidedSmooth.ts, four numbers at a time. Values are 32-bit floats.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** Running means along rows of `plane`, in place; `line` has room for width + 2 × radius + 2 values. */
export function blurRows(plane: usize, width: i32, height: i32, radius: i32, line: usize): void {
  const share: f64 = 1.0 / <f64>(2 * radius + 1);
  const bytes = <usize>width << 2;
  const span = <usize>(2 * radius + 1) << 2;
  const rim = <usize>radius << 2;
  for (let y = 0; y < height; y++) {
    const row = plane + <usize>y * bytes;
    const first = load<f32>(row);
    const last = load<f32>(row + bytes - 4);
    for (let i: usize = 0; i < rim; i += 4) store<f32>(line + i, first);
    memory.copy(line + rim, row, bytes);
    for (let i: usize = 0; i <= rim; i += 4) store<f32>(line + rim + bytes + i, last);
    let sum: f64 = 0;
    for (let i: usize = 0; i < span; i += 4) sum += <f64>load<f32>(line + i);
    for (let at: usize = 0; at < bytes; at += 4) {
      store<f32>(row + at, <f32>(sum * share));
      sum += <f64>(load<f32>(line + at + span) - load<f32>(line + at));
    }
  }
}

/**
 * Running means down columns of `plane`, in place, sixteen side by side; `lines` has room for 16 × (height + 2 × radius + 2)
 * values. The plane has fifteen values to spare behind it.
 */
export function blurColumns(plane: usize, width: i32, height: i32, radius: i32, lines: usize): void {
  const share = f32x4.splat(f32(1.0 / f64(2 * radius + 1)));
  const stride = <usize>width << 2;
  const span = <usize>(2 * radius + 1) << 6;
  for (let x = 0; x < width; x += 16) {
    const from = plane + (<usize>x << 2);
    for (let k = 0; k < height + 2 * radius + 1; k++) {
      const row = from + <usize>min(height - 1, max(0, k - radius)) * stride;
      const to = lines + (<usize>k << 6);
      v128.store(to, v128.load(row));
      v128.store(to, v128.load(row, 16), 16);
      v128.store(to, v128.load(row, 32), 32);
      v128.store(to, v128.load(row, 48), 48);
    }
    const kept = <usize>min(16, width - x) << 2;
    for (let part: usize = 0; part < kept; part += 16) {
      let sum = f32x4.splat(0);
      for (let i: usize = 0; i < span; i += 64) sum = f32x4.add(sum, v128.load(lines + part + i));
      let to = from + part;
      let line = lines + part;
      for (let y = 0; y < height; y++, to += stride, line += 64) {
        const mean = f32x4.mul(sum, share);
        if (part + 16 <= kept) v128.store(to, mean);
        else {
          store<f32>(to, f32x4.extract_lane(mean, 0));
          if (part + 8 <= kept) store<f32>(to + 4, f32x4.extract_lane(mean, 1));
          if (part + 12 <= kept) store<f32>(to + 8, f32x4.extract_lane(mean, 2));
        }
        sum = f32x4.add(sum, f32x4.sub(v128.load(line + span), v128.load(line)));
      }
    }
  }
}

function blur(plane: usize, width: i32, height: i32, radius: i32, lines: usize): void {
  blurRows(plane, width, height, radius, lines);
  blurColumns(plane, width, height, radius, lines);
}

/** The guided filter of `plane` with itself, in place; `mean` and `slope` have room for as much, and fifteen values to spare each. */
export function guidedFilter(plane: usize, mean: usize, slope: usize, width: i32, height: i32, radius: i32, contrast: f32, lines: usize): void {
  const bytes = <usize>(width * height) << 2;
  memory.copy(mean, plane, bytes);
  for (let i: usize = 0; i < bytes; i += 16) {
    const value = v128.load(plane + i);
    v128.store(slope + i, f32x4.mul(value, value));
  }
  blur(mean, width, height, radius, lines);
  blur(slope, width, height, radius, lines);
  const zero = f32x4.splat(0);
  const least = f32x4.splat(1e-6);
  const one = f32x4.splat(1);
  const tolerance = f32x4.splat(contrast * contrast);
  for (let i: usize = 0; i < bytes; i += 16) {
    const middle = v128.load(mean + i);
    const square = f32x4.mul(middle, middle);
    const variance = f32x4.max(zero, f32x4.sub(v128.load(slope + i), square));
    const kept = f32x4.div(variance, f32x4.add(f32x4.add(variance, f32x4.mul(tolerance, square)), least));
    v128.store(slope + i, kept);
    v128.store(mean + i, f32x4.mul(middle, f32x4.sub(one, kept)));
  }
  blur(mean, width, height, radius, lines);
  blur(slope, width, height, radius, lines);
  for (let i: usize = 0; i < bytes; i += 16) v128.store(plane + i, f32x4.add(f32x4.mul(v128.load(slope + i), v128.load(plane + i)), v128.load(mean + i)));
}
