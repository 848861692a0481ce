import { enlargePlane } from '../raster/enlargePlane';

/**
 * Fills masked places from around them, smoothly.
 * Method: push–pull (Gortler et al. 1996): means over ever larger blocks, the smallest block with something known in it wins.
 * @param plane - width × height samples; what is masked is not read
 * @param mask - 1 where the sample is to be filled in, else 0
 */
export function fillMasked(plane: Float32Array, mask: Uint8Array, width: number, height: number): Float32Array {
  if (!mask.includes(1)) return plane;
  const known = new Float32Array(mask.length);
  const sum = new Float32Array(mask.length);
  for (let i = 0; i < mask.length; i++) {
    if (mask[i] !== 0) continue;
    known[i] = 1;
    sum[i] = plane[i]!;
  }
  return pushPull(sum, known, width, height);
}

function pushPull(sum: Float32Array, weight: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(sum.length);
  if (width === 1 && height === 1) {
    out[0] = weight[0]! > 0 ? sum[0]! / weight[0]! : 255;
    return out;
  }
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const halfSum = new Float32Array(w * h);
  const halfWeight = new Float32Array(w * h);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const to = (y >> 1) * w + (x >> 1);
      halfSum[to]! += sum[y * width + x]!;
      halfWeight[to]! += weight[y * width + x]!;
    }
  }
  for (let i = 0; i < halfSum.length; i++) {
    if (halfWeight[i]! > 1) {
      halfSum[i]! /= halfWeight[i]!;
      halfWeight[i] = 1;
    }
  }
  const coarse = enlargePlane(pushPull(halfSum, halfWeight, w, h), { width: w, height: h }, { width, height });
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      // no weight is more than 1, so that a sum is its place's share of the whole
      out[i] = sum[i]! + coarse[i]! * (1 - weight[i]!);
    }
  }
  return out;
}
