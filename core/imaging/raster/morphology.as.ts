// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of morphology.ts, four floats or sixteen bytes at a time. Values are 32-bit floats where nothing else is said.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** What lies beyond the border: it is never the largest. */
const NOTHING: f32 = -Infinity;

/**
 * Every value from `line` to `end` becomes the largest of itself and of the `span` - 1 after it, `stride` bytes apart, by
 * windows that double in size. There are `span` values of nothing behind the end.
 */
// @ts-ignore: decorator
@inline
function largestOfSpan(line: usize, end: usize, span: i32, stride: i32): void {
  let reach = 1;
  while (reach < span) {
    const step = min(reach, span - reach);
    const bytes = <usize>(step * stride);
    for (let at = line; at < end; at += 16) v128.store(at, f32x4.max(v128.load(at), v128.load(at + bytes)));
    reach += step;
  }
}

/** plane = -plane, in place; it has three values to spare. */
export function negatePlane(plane: usize, count: i32): void {
  for (let at = plane, end = plane + (<usize>count << 2); at < end; at += 16) v128.store(at, f32x4.neg(v128.load(at)));
}

/** Rows of `plane`, in place; `line` has room for width + 4 × span + 16 values. */
export function largestAlongRows(plane: usize, width: i32, height: i32, radius: i32, line: usize): void {
  const span = 2 * radius + 1;
  const padded = width + 2 * radius;
  const rim = <usize>radius << 2;
  const bytes = <usize>width << 2;
  for (let y = 0; y < height; y++) {
    const row = plane + <usize>y * bytes;
    for (let i = 0; i < radius; i++) store<f32>(line + (<usize>i << 2), NOTHING);
    for (let i = radius + width; i < padded + span + 8; i++) store<f32>(line + (<usize>i << 2), NOTHING);
    memory.copy(line + rim, row, bytes);
    largestOfSpan(line, line + (<usize>padded << 2), span, 4);
    memory.copy(row, line, bytes);
  }
}

/**
 * Columns of `plane`, in place, four side by side; `lines` has room for 4 × (height + 4 × span + 16) values. The plane has
 * three values to spare behind it.
 */
export function largestAlongColumns(plane: usize, width: i32, height: i32, radius: i32, lines: usize): void {
  const span = 2 * radius + 1;
  const padded = height + 2 * radius;
  const stride = <usize>width << 2;
  const nothing = f32x4.splat(NOTHING);
  for (let x = 0; x < width; x += 4) {
    // the last columns are taken once more with some of those before them
    const from = plane + (<usize>max(0, min(x, width - 4)) << 2);
    for (let i = 0; i < radius; i++) v128.store(lines + (<usize>i << 4), nothing);
    for (let i = radius + height; i < padded + span + 2; i++) v128.store(lines + (<usize>i << 4), nothing);
    for (let y = 0; y < height; y++) v128.store(lines + (<usize>(radius + y) << 4), v128.load(from + <usize>y * stride));
    largestOfSpan(lines, lines + (<usize>padded << 4), span, 16);
    // of columns that were done already nothing is written
    const first = min(x, width - 4);
    for (let y = 0; y < height; y++) {
      const to = plane + <usize>y * stride;
      const value = lines + (<usize>y << 4);
      if (first == x) v128.store(to + (<usize>x << 2), v128.load(value));
      else for (let u = x; u < width; u++) store<f32>(to + (<usize>u << 2), load<f32>(value + (<usize>(u - max(0, first)) << 2)));
    }
  }
}

/** 255 less each of some bytes, in place; fifteen to spare behind them. */
export function invertBytes(plane: usize, count: i32): void {
  for (let i = 0; i < count; i += 16) v128.store(plane + i, v128.not(v128.load(plane + i)));
}

// @ts-ignore: decorator
@inline
function largestByteOfSpan(line: usize, end: usize, span: i32, stride: i32): void {
  let reach = 1;
  while (reach < span) {
    const step = min(reach, span - reach);
    const away = <usize>(step * stride);
    for (let at = line; at < end; at += 16) v128.store(at, i8x16.max_u(v128.load(at), v128.load(at + away)));
    reach += step;
  }
}

/** largestAlongRows of bytes; `line` has room for width + 4 × span + 48. */
export function largestByteAlongRows(plane: usize, width: i32, height: i32, radius: i32, line: usize): void {
  const span = 2 * radius + 1;
  const rim = <usize>radius;
  memory.fill(line, 0, <usize>(width + 4 * span + 48));
  for (let y = 0; y < height; y++) {
    const row = plane + <usize>(y * width);
    memory.fill(line, 0, rim);
    memory.copy(line + rim, row, <usize>width);
    memory.fill(line + rim + <usize>width, 0, rim + <usize>span + 32);
    largestByteOfSpan(line, line + <usize>(width + 2 * radius), span, 1);
    memory.copy(row, line, <usize>width);
  }
}

/** largestAlongColumns of bytes, sixteen side by side; `lines` has room for 16 × (height + 4 × span + 16). The plane has fifteen bytes to spare behind it. */
export function largestByteAlongColumns(plane: usize, width: i32, height: i32, radius: i32, lines: usize): void {
  const span = 2 * radius + 1;
  const padded = height + 2 * radius;
  for (let x = 0; x < width; x += 16) {
    const from = plane + <usize>x;
    const kept = <usize>min(16, width - x);
    memory.fill(lines, 0, <usize>radius << 4);
    memory.fill(lines + (<usize>(radius + height) << 4), 0, <usize>(radius + span + 2) << 4);
    for (let y = 0; y < height; y++) v128.store(lines + (<usize>(radius + y) << 4), v128.load(from + <usize>(y * width)));
    largestByteOfSpan(lines, lines + (<usize>padded << 4), span, 16);
    for (let y = 0; y < height; y++) {
      if (kept == 16) v128.store(from + <usize>(y * width), v128.load(lines + (<usize>y << 4)));
      else memory.copy(from + <usize>(y * width), lines + (<usize>y << 4), kept);
    }
  }
}
