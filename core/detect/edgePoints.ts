import type { ColourPlanes } from './colourPlanes';

/** Gradient of the strongest of the three planes at each pixel, in grey levels per pixel. */
export interface GradientField {
  readonly width: number;
  readonly height: number;
  readonly gx: Float32Array;
  readonly gy: Float32Array;
  readonly magnitude: Float32Array;
}

/** Central differences in lightness and both colours; the plane with the steepest slope speaks for the pixel. */
export function gradientField({ width, height, l, a, b }: ColourPlanes): GradientField {
  const gx = new Float32Array(width * height);
  const gy = new Float32Array(width * height);
  const magnitude = new Float32Array(width * height);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      let bestX = l[i + 1]! - l[i - 1]!;
      let bestY = l[i + width]! - l[i - width]!;
      let best = bestX * bestX + bestY * bestY;
      const ax = a[i + 1]! - a[i - 1]!;
      const ay = a[i + width]! - a[i - width]!;
      const am = ax * ax + ay * ay;
      if (am > best) {
        best = am;
        bestX = ax;
        bestY = ay;
      }
      const bx = b[i + 1]! - b[i - 1]!;
      const by = b[i + width]! - b[i - width]!;
      const bm = bx * bx + by * by;
      if (bm > best) {
        best = bm;
        bestX = bx;
        bestY = by;
      }
      gx[i] = bestX / 2;
      gy[i] = bestY / 2;
      magnitude[i] = Math.sqrt(best) / 2;
    }
  }
  return { width, height, gx, gy, magnitude };
}

/** Crests of the gradient: pixel centres, unit normals, and a weight from 0 to 1 that saturates with steepness. */
export interface EdgePoints {
  readonly count: number;
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly nx: Float32Array;
  readonly ny: Float32Array;
  readonly weight: Float32Array;
}

/**
 * Thins the gradient to its crests (non-maximum suppression, Canny 1986), keeping even faint ones: a pale page on a
 * pale desk differs by a few grey levels, so weight saturates early and the threshold follows the picture's own noise.
 * @param medians - the threshold over the picture's median gradient; higher is faster and loses faint edges first
 */
export function findEdgePoints({ width, height, gx, gy, magnitude }: GradientField, floor: number, medians = 1.3): EdgePoints {
  const threshold = Math.max(floor, medians * sampledMedian(magnitude));
  const xs: number[] = [];
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2; x < width - 2; x++) {
      const i = y * width + x;
      const m = magnitude[i]!;
      if (m < threshold) continue;
      const horizontal = Math.abs(gx[i]!) > Math.abs(gy[i]!) * 2.414;
      const vertical = Math.abs(gy[i]!) > Math.abs(gx[i]!) * 2.414;
      const step = horizontal ? 1 : vertical ? width : gx[i]! * gy[i]! > 0 ? width + 1 : width - 1;
      if (m >= magnitude[i - step]! && m > magnitude[i + step]!) xs.push(i);
    }
  }
  const count = xs.length;
  const out = { count, x: new Float32Array(count), y: new Float32Array(count), nx: new Float32Array(count), ny: new Float32Array(count), weight: new Float32Array(count) };
  xs.forEach((i, k) => {
    const m = magnitude[i]!;
    out.x[k] = (i % width) + 0.5;
    out.y[k] = Math.floor(i / width) + 0.5;
    out.nx[k] = gx[i]! / m;
    out.ny[k] = gy[i]! / m;
    out.weight[k] = m / (m + 5);
  });
  return out;
}

function sampledMedian(values: Float32Array): number {
  const step = Math.max(1, Math.floor(values.length / 2003));
  const sample = new Float32Array(Math.floor(values.length / step));
  for (let k = 0; k < sample.length; k++) sample[k] = values[k * step]!;
  return sample.sort()[sample.length >> 1] ?? 0;
}
