import type { PixelImage } from '../../core/imaging/raster/pixelImage';
import { createRandom } from '../random';
import type { Exposure } from './paintScene';
import type { Scene } from './scene';

const CURVE = Uint8ClampedArray.from({ length: 4097 }, (_, i) => {
  const v = i / 4096;
  const s = v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055;
  // phones add a little contrast
  return 255 * (s + 0.06 * Math.sin((s - 0.5) * 2 * Math.PI) * 0.5);
});

/** Blur, vignette, exposure, noise and tone curve: from light to an 8-bit picture. */
export function develop(light: Exposure, scene: Scene): PixelImage {
  const { width, height, data } = light;
  const { blurPx, motionPx, motionRad, noise } = scene.camera;
  blurRows(light, blurPx);
  blurColumns(light, blurPx);
  if (motionPx > 0) smear(light, motionPx, motionRad);
  const gain = exposureGain(light, scene);
  const random = createRandom(scene.seed * 271 + 9 + scene.shot * 7877);
  const table = Float32Array.from({ length: 1 << 16 }, () => random.gauss());
  const out = new Uint8ClampedArray(width * height * 3);
  // not used: so that the photos of a seed stay what they were
  random.whole(0, 65535);
  for (let y = 0; y < height; y++) {
    const dy = (y - height / 2) / (height / 2);
    developRow({ light: data, grain: table, out, at: y * width * 3, width }, dy, gain, noise, random.whole(0, 65535));
  }
  return { width, height, channels: 3, data: out };
}

interface Row {
  readonly light: Float32Array;
  readonly grain: Float32Array;
  readonly out: Uint8ClampedArray;
  readonly at: number;
  readonly width: number;
}

function developRow(
  { light, grain, out, at, width }: Row,
  dy: number,
  gain: number,
  noise: number,
  draw: number,
): void {
  const curve = CURVE;
  for (let x = 0, i = at; x < width; x++) {
    const dx = (x - width / 2) / (width / 2);
    const falloff = gain * (1 - 0.11 * (dx * dx + dy * dy));
    for (const end = i + 3; i < end; i++) {
      const v = Math.max(0, light[i]! * falloff);
      draw = (draw + 1) & 65535;
      // shot noise grows with the root of the light, read noise is constant
      const grainy = v + grain[draw]! * noise * (0.25 + 1.05 * Math.sqrt(v));
      out[i] = curve[Math.min(4096, Math.max(0, (grainy * 4096) | 0))]!;
    }
  }
}

/** Exposes as a phone does: bright parts near, but below, white. */
function exposureGain(light: Exposure, scene: Scene): number {
  const random = createRandom(scene.seed * 53 + 1);
  const samples: number[] = [];
  for (let i = 0; i < 4000; i++)
    samples.push(light.data[Math.floor(random.next() * light.width * light.height) * 3 + 1]!);
  samples.sort((a, b) => a - b);
  const bright = samples[Math.floor(samples.length * 0.93)]!;
  return random.between(0.62, 0.85) / Math.max(0.05, bright);
}

function gaussKernel(sigma: number): Float32Array {
  const radius = Math.max(1, Math.ceil(sigma * 2.5));
  const kernel = Float32Array.from({ length: 2 * radius + 1 }, (_, i) =>
    Math.exp(-((i - radius) ** 2) / (2 * sigma * sigma)),
  );
  const sum = kernel.reduce((a, b) => a + b, 0);
  return kernel.map((k) => k / sum);
}

function blurRows({ width, height, data }: Exposure, sigma: number): void {
  const kernel = gaussKernel(sigma);
  const margin = ((kernel.length - 1) / 2) * 3;
  const row = new Float32Array(width * 3 + 2 * margin);
  for (let y = 0; y < height; y++) {
    const start = y * width * 3;
    row.set(data.subarray(start, start + width * 3), margin);
    for (let i = 0; i < margin; i++) {
      row[i] = data[start + (i % 3)]!;
      row[row.length - 1 - i] = data[start + width * 3 - 1 - (i % 3)]!;
    }
    const taps = Array.from(kernel, (_, k) => row.subarray(k * 3, k * 3 + width * 3));
    sumTaps(data.subarray(start, start + width * 3), taps, kernel);
  }
}

function blurColumns({ width, height, data }: Exposure, sigma: number): void {
  const kernel = gaussKernel(sigma);
  const radius = (kernel.length - 1) / 2;
  const stride = width * 3;
  // a ring of the rows that are still needed keeps this in place
  const ring = Array.from({ length: kernel.length }, () => new Float32Array(stride));
  const load = (y: number): void => {
    const from = Math.min(height - 1, Math.max(0, y)) * stride;
    ring[(y + radius) % kernel.length]!.set(data.subarray(from, from + stride));
  };
  for (let y = -radius; y < radius; y++) load(y);
  for (let y = 0; y < height; y++) {
    load(y + radius);
    const taps = Array.from(kernel, (_, k) => ring[(y + k) % kernel.length]!);
    sumTaps(data.subarray(y * stride, (y + 1) * stride), taps, kernel);
  }
}

/** The weighted sum of rows of one length; weights are the same from both ends. */
function sumTaps(out: Float32Array, taps: readonly Float32Array[], weights: Float32Array): void {
  const middle = (taps.length - 1) / 2;
  scaleRow(out, taps[middle]!, weights[middle]!);
  for (let k = 0; k < middle; k++) addPair(out, taps[k]!, taps[taps.length - 1 - k]!, weights[k]!);
}

function scaleRow(out: Float32Array, row: Float32Array, weight: number): void {
  for (let i = 0; i < out.length; i++) out[i] = weight * row[i]!;
}

function addPair(out: Float32Array, one: Float32Array, other: Float32Array, weight: number): void {
  for (let i = 0; i < out.length; i++) out[i]! += weight * (one[i]! + other[i]!);
}

function smear(light: Exposure, lengthPx: number, angleRad: number): void {
  const { width, height, data } = light;
  const source = data.slice();
  const taps = Math.max(3, Math.round(lengthPx) | 1);
  const offsets = Array.from({ length: taps }, (_, i) => {
    const t = (i / (taps - 1) - 0.5) * lengthPx;
    return [Math.round(Math.cos(angleRad) * t), Math.round(Math.sin(angleRad) * t)] as const;
  });
  const stride = width * 3;
  // rows of the picture with their ends drawn out, so that a shifted row is a part of one
  const margin = 3 * Math.max(...offsets.map(([ox]) => Math.abs(ox)));
  const wide = new Float32Array(stride + 2 * margin);
  for (let y = 0; y < height; y++) {
    const out = data.subarray(y * stride, (y + 1) * stride);
    out.fill(0);
    for (const [ox, oy] of offsets) {
      const from = Math.min(height - 1, Math.max(0, y + oy)) * stride;
      wide.set(source.subarray(from, from + stride), margin);
      for (let i = 0; i < margin; i++) {
        wide[i] = source[from + (i % 3)]!;
        wide[wide.length - 1 - i] = source[from + stride - 1 - (i % 3)]!;
      }
      addRow(out, wide.subarray(margin + 3 * ox, margin + 3 * ox + stride));
    }
    for (let i = 0; i < stride; i++) out[i]! /= taps;
  }
}

function addRow(out: Float32Array, row: Float32Array): void {
  for (let i = 0; i < out.length; i++) out[i]! += row[i]!;
}
