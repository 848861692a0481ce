import { type Homography } from '../geometry/homography';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { bilinear } from '../raster/bilinear';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { halvePlane, lightnessPlane, type Plane } from '../raster/plane';
import { quantile } from '../raster/quantile';
import { registerFrames } from './registerFrames';
import { sampleCubic } from './sampleCubic';

/*
 * Several frames of one still scene into one with less noise.
 * 1. The sharpest frame is the reference; frames clearly less sharp than it are left out, so the result is never softer.
 * 2. The others are registered onto it (registerFrames).
 * 3. Where a blurred frame differs from the blurred reference by more than noise can explain, something moved: that frame
 *    is left out there, and the reference stands alone if need be.
 * 4. What is left is averaged, each sample weighed by how well it agrees with the reference (a robust mean), read between
 *    pixels with a cubic that is a little sharper than the mean of many makes soft.
 * Assumes a flat scene; noise that differs from frame to frame (what a sensor gives, not what a codec repeats).
 */

export interface FusedFrames {
  /** RGB, of the reference's size. */
  readonly image: PixelImage;
  /** Which frame the others were laid on. */
  readonly reference: number;
  /** Frames that went in, the reference included. */
  readonly used: number;
  /** Share of the picture where at least one frame was left out because something moved. */
  readonly movedShare: number;
}

/** Share of a frame's tiles that must agree with its homography for the frame to be used. */
const LEAST_AGREEMENT = 0.5;
/** A frame less sharp than this share of the sharpest is left out: the merged one is never softer than its reference. */
const LEAST_SHARPNESS_SHARE = 0.9;
/** Side of the squares in which it is asked whether something moved, px. */
const BLOCK_PX = 8;

/**
 * Merges frames of one still scene; method and limits above.
 * @param frames - at least one; all of one size; RGB or RGBA
 * @throws RangeError when sizes differ or there is no frame
 */
export function fuseFrames(frames: readonly PixelImage[]): FusedFrames {
  const first = frames[0];
  if (first === undefined || frames.some((f) => f.width !== first.width || f.height !== first.height))
    throw new RangeError('fuseFrames: needs frames of one size');
  const planes = frames.map(lightnessPlane);
  const sharpness = planes.map(sharpnessOf);
  const reference = sharpness.indexOf(Math.max(...sharpness));
  const referencePlane = planes[reference]!;
  const noise = noiseByLevel(referencePlane);
  const laid: LaidFrame[] = [];
  planes.forEach((plane, i) => {
    if (i === reference || sharpness[i]! < LEAST_SHARPNESS_SHARE * sharpness[reference]!) return;
    const registration = registerFrames(referencePlane, plane);
    if (registration === null || registration.agreement < LEAST_AGREEMENT) return;
    laid.push({
      frame: frames[i]!,
      homography: registration.homography,
      still: stillness(referencePlane, plane, registration.homography, noise),
    });
  });
  const image = mergeOnto(frames[reference]!, laid, noise);
  const blocks = laid[0]?.still.length ?? 1;
  let moved = 0;
  for (let b = 0; b < blocks; b++) if (laid.some(({ still }) => still[b]! < 0.5)) moved++;
  return { image, reference, used: laid.length + 1, movedShare: moved / blocks };
}

/** Mean strength of detail two pixels wide: blur takes it away, noise at that width hardly adds to it. */
function sharpnessOf(plane: Plane): number {
  const { width, height, data } = halvePlane(plane);
  let sum = 0;
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      const lap = 4 * data[at]! - data[at - 1]! - data[at + 1]! - data[at - width]! - data[at + width]!;
      // large responses are ink and edges; small ones are mostly noise
      if (Math.abs(lap) > 24) sum += Math.abs(lap);
    }
  }
  return sum / (width * height);
}

/** Levels of lightness that have a noise of their own. */
const LEVELS = 16;

/**
 * Standard deviation of the noise at 16 levels of lightness.
 * Method: the 20th percentile of local mean absolute second differences, which flat paper reaches and detail does not
 * (after Immerkær, "Fast noise variance estimation", CVIU 1996).
 */
function noiseByLevel({ width, height, data }: Plane): Float32Array {
  const found: number[][] = Array.from({ length: LEVELS }, () => []);
  for (let y = 4; y + BLOCK_PX < height; y += 2 * BLOCK_PX) {
    for (let x = 4; x + BLOCK_PX < width; x += 2 * BLOCK_PX) {
      let sum = 0;
      let level = 0;
      for (let j = 0; j < BLOCK_PX; j++) {
        for (let i = 0; i < BLOCK_PX; i++) {
          const at = (y + j) * width + x + i;
          const d = data;
          sum += Math.abs(
            d[at - width - 1]! -
              2 * d[at - width]! +
              d[at - width + 1]! -
              2 * d[at - 1]! +
              4 * d[at]! -
              2 * d[at + 1]! +
              d[at + width - 1]! -
              2 * d[at + width]! +
              d[at + width + 1]!,
          );
          level += d[at]!;
        }
      }
      const n = BLOCK_PX * BLOCK_PX;
      found[Math.min(LEVELS - 1, Math.floor((level / n / 256) * LEVELS))]!.push((sum / n / 6) * Math.sqrt(Math.PI / 2));
    }
  }
  const known = found.map((values) => (values.length < 8 ? NaN : quantile(values, 0.2)));
  const fallback = known.filter((v) => !Number.isNaN(v)).reduce((a, b) => Math.max(a, b), 0.8);
  return Float32Array.from(known, (v) => Math.max(0.8, Number.isNaN(v) ? fallback : v));
}

const noiseAt = (noise: Float32Array, level: number): number =>
  noise[Math.min(LEVELS - 1, Math.max(0, (level / 256) * LEVELS)) | 0]!;

/** For each 8 × 8 block 1 where the frame shows what the reference shows, 0 where something moved. */
function stillness(reference: Plane, frame: Plane, h: Homography, noise: Float32Array): Float32Array {
  const across = Math.ceil(reference.width / BLOCK_PX);
  const down = Math.ceil(reference.height / BLOCK_PX);
  const off = new Float32Array(across * down);
  for (let by = 0; by < down; by++) {
    for (let bx = 0; bx < across; bx++) {
      let difference = 0;
      let level = 0;
      let contrast = 0;
      let count = 0;
      for (let j = 1; j < BLOCK_PX; j += 2) {
        for (let i = 1; i < BLOCK_PX; i += 2) {
          const x = bx * BLOCK_PX + i;
          const y = by * BLOCK_PX + j;
          if (x >= reference.width - 1 || y >= reference.height - 1) continue;
          const v = sampleLinear(frame, h, x + 0.5, y + 0.5);
          if (v === null) continue;
          const own = reference.data[y * reference.width + x]!;
          difference += v - own;
          level += own;
          contrast = Math.max(
            contrast,
            Math.abs(own - reference.data[y * reference.width + x + 1]!),
            Math.abs(own - reference.data[(y + 1) * reference.width + x]!),
          );
          count++;
        }
      }
      // a mean of n samples of two noisy frames strays by √(2/n) of the noise; edges stray by a little registration error
      const allowed =
        count === 0 ? 0 : noiseAt(noise, level / count) * Math.sqrt(2 / count) * 3.5 + 0.06 * contrast + 1.5;
      off[by * across + bx] = count < 4 ? 1 : Math.abs(difference / count) / allowed;
    }
  }
  // a moved thing also spoils its rim: the worst of the neighbours counts
  return Float32Array.from(off, (_, k) => {
    const bx = k % across;
    const by = Math.floor(k / across);
    let strikes = 0;
    let worst = 0;
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const at = Math.min(down - 1, Math.max(0, by + dy)) * across + Math.min(across - 1, Math.max(0, bx + dx));
        if (off[at]! > 1) strikes++;
        worst = Math.max(worst, off[at]!);
      }
    }
    return worst > 2.2 || strikes >= 3 ? 0 : 1;
  });
}

function sampleLinear({ width, height, data }: Plane, h: Homography, px: number, py: number): number | null {
  const w = h[6] * px + h[7] * py + h[8];
  const x = (h[0] * px + h[1] * py + h[2]) / w - 0.5;
  const y = (h[3] * px + h[4] * py + h[5]) / w - 0.5;
  if (!(x >= 0 && y >= 0 && x < width - 1 && y < height - 1)) return null;
  const column = x | 0;
  const row = y | 0;
  return bilinear(data, width, row * width + column, x - column, y - row);
}

/** A frame, how it lies on the reference, and where it shows the same as the reference. */
interface LaidFrame {
  readonly frame: PixelImage;
  readonly homography: Homography;
  readonly still: Float32Array;
}

/** A row of the merged picture: weighted sums of red, green and blue, and of the weights. */
interface RowSums {
  readonly colours: Float32Array;
  readonly weights: Float32Array;
}

/** Begins a row with the reference's own pixels. */
function startRow({ width, channels, data }: PixelImage, y: number, { colours, weights }: RowSums): void {
  for (let x = 0, at = y * width * channels, to = 0; x < width; x++, at += channels, to += 3) {
    colours[to] = data[at]!;
    colours[to + 1] = data[at + 1]!;
    colours[to + 2] = data[at + 2]!;
    weights[x] = 1;
  }
}

/** Adds a frame's pixels to a row, each by how well it agrees with the reference. */
function addFrameToRow(
  reference: PixelImage,
  { frame, homography: h, still }: LaidFrame,
  noise: Float32Array,
  y: number,
  { colours, weights }: RowSums,
): void {
  const { width, channels, data } = reference;
  const blocksAbove = ((y / BLOCK_PX) | 0) * Math.ceil(width / BLOCK_PX);
  const read = new Float32Array(3);
  for (let x = 0; x < width; x++) {
    if (still[blocksAbove + ((x / BLOCK_PX) | 0)] === 0) continue;
    const px = x + 0.5;
    const py = y + 0.5;
    const w = 1 / (h[6] * px + h[7] * py + h[8]);
    if (!sampleCubic(frame, (h[0] * px + h[1] * py + h[2]) * w, (h[3] * px + h[4] * py + h[5]) * w, read)) continue;
    const [r, g, b] = [read[0]!, read[1]!, read[2]!];
    const own = (y * width + x) * channels;
    const level = data[own + 1]!;
    const difference = (Math.abs(r - data[own]!) + 2 * Math.abs(g - level) + Math.abs(b - data[own + 2]!)) / 4;
    const weight = tukeyWeight(difference / (noiseAt(noise, level) * 5 + 3));
    colours[3 * x]! += weight * r;
    colours[3 * x + 1]! += weight * g;
    colours[3 * x + 2]! += weight * b;
    weights[x]! += weight;
  }
}

function mergeOnto(reference: PixelImage, laid: readonly LaidFrame[], noise: Float32Array): PixelImage {
  const { width, height } = reference;
  const out = createPixelImage(width, height, 3);
  const sums: RowSums = { colours: new Float32Array(width * 3), weights: new Float32Array(width) };
  for (let y = 0; y < height; y++) {
    startRow(reference, y, sums);
    for (const each of laid) addFrameToRow(reference, each, noise, y, sums);
    for (let k = 0, to = y * width * 3; k < 3 * width; k++, to++)
      out.data[to] = sums.colours[k]! / sums.weights[(k / 3) | 0]!;
  }
  return out;
}
