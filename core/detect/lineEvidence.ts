import type { ColourPlanes } from './colourPlanes';
import type { GradientField } from './edgePoints';
import type { Line } from './lineProposals';
import type { PageMap } from './pageNetwork';

/**
 * What lies along a line, as running sums over whole-pixel steps, so that any stretch of it is judged in constant time.
 * "Plus" is the side the normal points to. Index k is the state before step k; a stretch is sums[to] - sums[from].
 */
export interface LineEvidence {
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
  readonly mapped: Float32Array | null;
}

/** A side may bow or the line be slightly off: the edge is looked for this far to either side. */
const SEARCH_PX = 3;
/** Strips are read beyond the blur of the edge itself. */
const STRIP_PX = [2.5, 4.5] as const;

/**
 * Reads the picture on both sides of a line. The paper's edge differs, in lightness or in colour; a fine ridge
 * looks the same on both sides and earns little. Limits: a strong printed rule is still seen from its flank, because the
 * nearer strip lies within its blur.
 */
export function gatherEvidence(line: Line, planes: ColourPlanes, gradient: GradientField, map: PageMap | null = null): LineEvidence | null {
  const { width, height } = planes;
  const { nx, ny, rho } = line;
  const span = clipToFrame(line, width, height);
  if (span === null) return null;
  const start = Math.ceil(span[0]);
  const length = Math.floor(span[1]) - start;
  if (length < 8) return null;
  const sums = (): Float32Array => new Float32Array(length + 1);
  const out = { line, start, length, step: sums(), plusL: sums(), minusL: sums(), plusA: sums(), minusA: sums(), plusB: sums(), minusB: sums(), mapped: map === null ? null : mappedAlong(line, start, length, map, width, height) };
  const seen = new Float32Array(length);
  const plusSquared = new Float64Array(length + 1);
  const minusSquared = new Float64Array(length + 1);
  const at = (x: number, y: number): number => {
    const column = x < 0 ? 0 : x >= width ? width - 1 : x | 0;
    return (y < 0 ? 0 : y >= height ? height - 1 : y | 0) * width + column;
  };
  for (let k = 0; k < length; k++) {
    const t = start + k;
    const x = rho * nx - t * ny;
    const y = rho * ny + t * nx;
    let offset = 0;
    let slope = 0;
    if (!line.border) {
      for (let o = -SEARCH_PX; o <= SEARCH_PX; o++) {
        const i = at(x + nx * o, y + ny * o);
        const across = Math.abs(gradient.gx[i]! * nx + gradient.gy[i]! * ny) * (1 - 0.06 * Math.abs(o));
        if (across > slope) {
          slope = across;
          offset = o;
        }
      }
    }
    let pl = 0;
    let pa = 0;
    let pb = 0;
    let ml = 0;
    let ma = 0;
    let mb = 0;
    for (const d of STRIP_PX) {
      const p = at(x + nx * (offset + d), y + ny * (offset + d));
      const m = at(x + nx * (offset - d), y + ny * (offset - d));
      pl += planes.l[p]! / 2;
      pa += planes.a[p]! / 2;
      pb += planes.b[p]! / 2;
      ml += planes.l[m]! / 2;
      ma += planes.a[m]! / 2;
      mb += planes.b[m]! / 2;
    }
    const contrast = Math.sqrt((pl - ml) ** 2 + (pa - ma) ** 2 + (pb - mb) ** 2);
    seen[k] = line.border ? 0 : (contrast / (contrast + 8)) * (slope / (slope + 1.5));
    plusSquared[k + 1] = plusSquared[k]! + pl * pl;
    minusSquared[k + 1] = minusSquared[k]! + ml * ml;
    out.plusL[k + 1] = out.plusL[k]! + pl;
    out.minusL[k + 1] = out.minusL[k]! + ml;
    out.plusA[k + 1] = out.plusA[k]! + pa;
    out.minusA[k + 1] = out.minusA[k]! + ma;
    out.plusB[k + 1] = out.plusB[k]! + pb;
    out.minusB[k + 1] = out.minusB[k]! + mb;
  }
  for (let k = 0; k < length; k++) {
    const from = Math.max(0, k - SMOOTH_REACH_PX);
    const to = Math.min(length, k + SMOOTH_REACH_PX + 1);
    const variance = Math.min(
      varianceOver(out.plusL, plusSquared, from, to) / (1 + ((out.plusL[to]! - out.plusL[from]!) / (to - from)) / 60),
      varianceOver(out.minusL, minusSquared, from, to) / (1 + ((out.minusL[to]! - out.minusL[from]!) / (to - from)) / 60),
    );
    out.step[k + 1] = out.step[k]! + seen[k]! / (1 + variance / SMOOTH_VARIANCE);
  }
  return out;
}

/** Running sums of the network's edge beside the line, or of its page on a border of the picture: the strongest of three looks across it, one map pixel apart. */
function mappedAlong({ nx, ny, rho, border }: Line, start: number, length: number, { width, height, edge, page }: PageMap, pictureWidth: number, pictureHeight: number): Float32Array {
  const scaleX = width / pictureWidth;
  const scaleY = height / pictureHeight;
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

/** Paper is even along its edge; a woven or checked pattern is not on either side of its lines. */
const SMOOTH_REACH_PX = 9;
const SMOOTH_VARIANCE = 110;

function varianceOver(sums: Float32Array, squares: Float64Array, from: number, to: number): number {
  const n = to - from;
  const mean = (sums[to]! - sums[from]!) / n;
  return Math.max(0, (squares[to]! - squares[from]!) / n - mean * mean);
}

/** The most convincing single stretch of a line: the largest sum of step evidence above a modest bar (Kadane 1984). */
export function strongestStretch({ step, length }: LineEvidence): number {
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
export function meanOver(evidence: LineEvidence, sums: Float32Array, from: number, to: number): number | null {
  const low = Math.min(evidence.length, Math.max(0, Math.round(Math.min(from, to) - evidence.start)));
  const high = Math.min(evidence.length, Math.max(0, Math.round(Math.max(from, to) - evidence.start)));
  return high > low ? (sums[high]! - sums[low]!) / (high - low) : null;
}
