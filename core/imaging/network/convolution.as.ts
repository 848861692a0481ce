// AssemblyScript, compiled into ../kernels/kernels.ts by scripts/buildKernels.mjs.
// The inner loops of convolution.ts, four numbers at a time. Planes are 32-bit floats.

// @ts-nocheck -- usize, v128 and their kin are AssemblyScript's

/** out[o] = bias[o] + the sum over c of weights[c, o] × in[c], for planes of `plane` values; negative results cut off if rectified. */
export function pointwise(input: usize, inputs: i32, weights: usize, bias: usize, output: usize, outputs: i32, plane: i32, rectified: bool): void {
  const bytes = <usize>plane << 2;
  const zero = f32x4.splat(0);
  const step = <usize>outputs << 2;
  for (let o = 0; o < outputs; o++) {
    const first = load<f32>(bias + (<usize>o << 2));
    const start = f32x4.splat(first);
    const column = weights + (<usize>o << 2);
    const to = output + <usize>o * bytes;
    let i: usize = 0;
    // sixteen places at a time stay in registers while all inputs pass by
    for (; i + 64 <= bytes; i += 64) {
      let a = start;
      let b = start;
      let c = start;
      let d = start;
      let from = input + i;
      let w = column;
      for (let k = 0; k < inputs; k++) {
        const factor = v128.load32_splat(w);
        a = f32x4.add(a, f32x4.mul(factor, v128.load(from)));
        b = f32x4.add(b, f32x4.mul(factor, v128.load(from, 16)));
        c = f32x4.add(c, f32x4.mul(factor, v128.load(from, 32)));
        d = f32x4.add(d, f32x4.mul(factor, v128.load(from, 48)));
        from += bytes;
        w += step;
      }
      if (rectified) {
        a = f32x4.max(a, zero);
        b = f32x4.max(b, zero);
        c = f32x4.max(c, zero);
        d = f32x4.max(d, zero);
      }
      v128.store(to + i, a);
      v128.store(to + i, b, 16);
      v128.store(to + i, c, 32);
      v128.store(to + i, d, 48);
    }
    for (; i < bytes; i += 4) {
      let a = first;
      let from = input + i;
      let w = column;
      for (let k = 0; k < inputs; k++) {
        a += load<f32>(w) * load<f32>(from);
        from += bytes;
        w += step;
      }
      store<f32>(to + i, rectified ? max<f32>(a, 0) : a);
    }
  }
}

/** Planes with a rim of nothing around each; the padded ones hold nothing yet. */
export function padPlanes(input: usize, channels: i32, height: i32, width: i32, before: i32, paddedHeight: i32, paddedWidth: i32, out: usize): void {
  const bytes = <usize>width << 2;
  for (let c = 0; c < channels; c++) {
    for (let y = 0; y < height; y++) memory.copy(out + (<usize>((c * paddedHeight + y + before) * paddedWidth + before) << 2), input + <usize>(c * height + y) * bytes, bytes);
  }
}

/** to += from; three values to spare. */
export function addPlanes(to: usize, from: usize, count: i32): void {
  for (let i: usize = 0, bytes = <usize>count << 2; i < bytes; i += 16) v128.store(to + i, f32x4.add(v128.load(to + i), v128.load(from + i)));
}

/** fine += coarse, each value of coarse four times; widths are even. */
export function addEnlarged(fine: usize, coarse: usize, rows: i32, width: i32): void {
  for (let row = 0; row < rows; row++) {
    const from = coarse + (<usize>((row >> 1) * (width >> 1)) << 2);
    for (let x = 0; x < width; x++, fine += 4) store<f32>(fine, load<f32>(fine) + load<f32>(from + (<usize>(x >> 1) << 2)));
  }
}

/**
 * Squares of weights [ky, kx, from, out] over the input's channels `from`, `each` of them for every output: its own one
 * (deep) or all. Input planes are padded, so that nothing is asked at the border; negative results are cut off.
 */
export function convolve(
  input: usize, weights: usize, bias: usize, output: usize, outputs: i32, each: i32, deep: bool,
  height: i32, width: i32, reach: i32, stride: i32, paddedWidth: i32, paddedPlane: i32,
): void {
  const zero = f32x4.splat(0);
  for (let o = 0; o < outputs; o++) {
    const first = load<f32>(bias + (<usize>o << 2));
    const start = f32x4.splat(first);
    const own = deep ? input + ((<usize>o * paddedPlane) << 2) : input;
    let to = output + ((<usize>o * height * width) << 2);
    for (let y = 0; y < height; y++) {
      let x = 0;
      // sixteen places at a time share each weight
      for (; x + 16 <= width; x += 16) {
        let s0 = start;
        let s1 = start;
        let s2 = start;
        let s3 = start;
        for (let c = 0; c < each; c++) {
          for (let ky = 0; ky < reach; ky++) {
            let row = own + ((<usize>(c * paddedPlane + (y * stride + ky) * paddedWidth + x * stride)) << 2);
            let w = weights + (<usize>((ky * reach * each + c) * outputs + o) << 2);
            for (let kx = 0; kx < reach; kx++) {
              const factor = v128.load32_splat(w);
              if (stride == 1) {
                s0 = f32x4.add(s0, f32x4.mul(factor, v128.load(row)));
                s1 = f32x4.add(s1, f32x4.mul(factor, v128.load(row, 16)));
                s2 = f32x4.add(s2, f32x4.mul(factor, v128.load(row, 32)));
                s3 = f32x4.add(s3, f32x4.mul(factor, v128.load(row, 48)));
              } else {
                s0 = f32x4.add(s0, f32x4.mul(factor, v128.shuffle<f32>(v128.load(row), v128.load(row, 16), 0, 2, 4, 6)));
                s1 = f32x4.add(s1, f32x4.mul(factor, v128.shuffle<f32>(v128.load(row, 32), v128.load(row, 48), 0, 2, 4, 6)));
                s2 = f32x4.add(s2, f32x4.mul(factor, v128.shuffle<f32>(v128.load(row, 64), v128.load(row, 80), 0, 2, 4, 6)));
                s3 = f32x4.add(s3, f32x4.mul(factor, v128.shuffle<f32>(v128.load(row, 96), v128.load(row, 112), 0, 2, 4, 6)));
              }
              row += 4;
              w += <usize>(each * outputs) << 2;
            }
          }
        }
        v128.store(to, f32x4.max(s0, zero));
        v128.store(to, f32x4.max(s1, zero), 16);
        v128.store(to, f32x4.max(s2, zero), 32);
        v128.store(to, f32x4.max(s3, zero), 48);
        to += 64;
      }
      for (; x + 4 <= width; x += 4) {
        let sum = start;
        for (let c = 0; c < each; c++) {
          for (let ky = 0; ky < reach; ky++) {
            let row = own + ((<usize>(c * paddedPlane + (y * stride + ky) * paddedWidth + x * stride)) << 2);
            let w = weights + (<usize>((ky * reach * each + c) * outputs + o) << 2);
            for (let kx = 0; kx < reach; kx++) {
              const factor = v128.load32_splat(w);
              const values = stride == 1 ? v128.load(row) : v128.shuffle<f32>(v128.load(row), v128.load(row, 16), 0, 2, 4, 6);
              sum = f32x4.add(sum, f32x4.mul(factor, values));
              row += 4;
              w += <usize>(each * outputs) << 2;
            }
          }
        }
        v128.store(to, f32x4.max(sum, zero));
        to += 16;
      }
      for (; x < width; x++) {
        let sum = first;
        for (let c = 0; c < each; c++) {
          for (let ky = 0; ky < reach; ky++) {
            for (let kx = 0; kx < reach; kx++) {
              const at = c * paddedPlane + (y * stride + ky) * paddedWidth + x * stride + kx;
              sum += load<f32>(weights + (<usize>(((ky * reach + kx) * each + c) * outputs + o) << 2)) * load<f32>(own + (<usize>at << 2));
            }
          }
        }
        store<f32>(to, max<f32>(sum, 0));
        to += 4;
      }
    }
  }
}
