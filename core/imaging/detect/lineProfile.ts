import { withWorkspace } from '../kernels/workspace';
import type { ColourPicture } from './colourPicture';
import type { GradientField } from './edgePoints';
import type { Line } from './lineProposals';
import type { PageSegmentation } from './pageNetwork';

/**
 * What lies along a line, as running sums over whole-pixel steps, so that any stretch of it is judged in constant time.
 * "Plus" is the side the normal points to. Index k is the state before step k; a stretch is sums[to] - sums[from].
 */
export interface LineProfile {
  readonly line: Line;
  /** Position along the line (x·-ny + y·nx) of index 0. */
  readonly start: number;
  readonly length: number;
  /** How well a step edge is seen, 0 to 1 a pixel. */
  readonly step: Float32Array;
  /** Lightness and colours of the strips on both sides. */
  readonly plusL: Float32Array;
  readonly minusL: Float32Array;
  readonly plusA: Float32Array;
  readonly minusA: Float32Array;
  readonly plusB: Float32Array;
  readonly minusB: Float32Array;
  /** How much of it the network takes for the page's edge, 0 to 1 a pixel; null where it was not asked. */
  readonly segmented: Float32Array | null;
}

/** Running sums that are read along a line. */
const SUMS = 7;

/**
 * Reads the picture on both sides of a line. The paper's edge differs, in lightness or in colour; a fine ridge
 * looks the same on both sides and earns little. Limits: a strong printed rule is still seen from its flank, because the
 * nearer strip lies within its blur.
 */
export function readLineProfile(
  line: Line,
  picture: ColourPicture,
  gradient: GradientField,
  segmentation: PageSegmentation | null = null,
): LineProfile | null {
  const { width, height } = picture;
  const { nx, ny, rho } = line;
  const span = clipToFrame(line, width, height);
  if (span === null) return null;
  const start = Math.ceil(span[0]);
  const length = Math.floor(span[1]) - start;
  if (length < 8) return null;
  const sums = length + 1;
  const read = withWorkspace((ws) => {
    const out = ws.f32(SUMS * sums);
    const squares = ws.f64(2 * sums);
    ws.kernels.readLine(
      picture.samples.at,
      width,
      height,
      gradient.gx.at,
      gradient.gy.at,
      nx,
      ny,
      rho,
      line.border,
      start,
      length,
      out.at,
      squares.at,
    );
    return out.copy();
  });
  const sumsOf = (k: number): Float32Array => read.subarray(k * sums, (k + 1) * sums);
  return {
    line,
    start,
    length,
    step: sumsOf(0),
    plusL: sumsOf(1),
    plusA: sumsOf(2),
    plusB: sumsOf(3),
    minusL: sumsOf(4),
    minusA: sumsOf(5),
    minusB: sumsOf(6),
    segmented: segmentation === null ? null : segmentationAlong(line, start, length, segmentation, picture),
  };
}

/** Running sums of the network's edge beside the line, or of its page on a border of the picture: the strongest of three samples across it, one of its pixels apart. */
function segmentationAlong(
  { nx, ny, rho, border }: Line,
  start: number,
  length: number,
  { width, height, edge, page }: PageSegmentation,
  picture: ColourPicture,
): Float32Array {
  const scaleX = width / picture.width;
  const scaleY = height / picture.height;
  const out = new Float32Array(length + 1);
  for (let k = 0; k < length; k++) {
    const t = start + k;
    const x = (rho * nx - t * ny) * scaleX;
    const y = (rho * ny + t * nx) * scaleY;
    let most = 0;
    for (let across = -1; across <= 1; across++) {
      const column = Math.min(width - 1, Math.max(0, Math.floor(x + nx * across)));
      const row = Math.min(height - 1, Math.max(0, Math.floor(y + ny * across)));
      most = Math.max(most, (border ? page : edge)[row * width + column]!);
    }
    out[k + 1] = out[k]! + most;
  }
  return out;
}

/** The most convincing single stretch of a line: the largest sum of step evidence above a modest bar (Kadane 1984). */
export function bestSegment({ step, length }: LineProfile): number {
  let best = 0;
  let running = 0;
  for (let k = 0; k < length; k++) {
    running = Math.max(0, running + step[k + 1]! - step[k]! - 0.2);
    best = Math.max(best, running);
  }
  return best;
}

/** The range of positions along the line that lie in the picture. */
function clipToFrame({ nx, ny, rho }: Line, width: number, height: number): [number, number] | null {
  let low = -Infinity;
  let high = Infinity;
  const clip = (origin: number, step: number, size: number): void => {
    if (Math.abs(step) < 1e-9) {
      if (origin < -0.5 || origin > size + 0.5) high = -Infinity;
      return;
    }
    const a = (0 - origin) / step;
    const b = (size - origin) / step;
    low = Math.max(low, Math.min(a, b));
    high = Math.min(high, Math.max(a, b));
  };
  clip(rho * nx, -ny, width);
  clip(rho * ny, nx, height);
  return high > low ? [low, high] : null;
}

/** The mean over a stretch of the line, positions in px; null where no part of it is in the picture. */
export function meanOver(evidence: LineProfile, sums: Float32Array, from: number, to: number): number | null {
  const low = Math.min(evidence.length, Math.max(0, Math.round(Math.min(from, to) - evidence.start)));
  const high = Math.min(evidence.length, Math.max(0, Math.round(Math.max(from, to) - evidence.start)));
  return high > low ? (sums[high]! - sums[low]!) / (high - low) : null;
}
