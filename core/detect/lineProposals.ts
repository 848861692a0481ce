import type { EdgePoints } from './edgePoints';

/** A straight line x·nx + y·ny = rho, unit normal, working-picture pixels. */
export interface Line {
  readonly nx: number;
  readonly ny: number;
  readonly rho: number;
  /** True for the picture's own four borders, which stand in for a side that runs out of frame. */
  readonly border: boolean;
}

const ANGLE_BINS = 180;
const RHO_STEP_PX = 2;

/**
 * The most voted lines through the edge points.
 * Method: Hough transform in which a point votes only near its own gradient's direction (O'Gorman & Clowes 1976), peaks
 * taken one by one with their surroundings cleared, each then fitted to the points it explains.
 * @param most - how many lines at most, strongest first
 */
export function proposeLines(points: EdgePoints, width: number, height: number, most: number): Line[] {
  const reach = Math.ceil(Math.hypot(width, height));
  const rhoBins = Math.ceil((2 * reach) / RHO_STEP_PX) + 2;
  const votes = new Float32Array(ANGLE_BINS * rhoBins);
  const cos = Float64Array.from({ length: ANGLE_BINS }, (_, k) => Math.cos((k * Math.PI) / ANGLE_BINS));
  const sin = Float64Array.from({ length: ANGLE_BINS }, (_, k) => Math.sin((k * Math.PI) / ANGLE_BINS));
  const spread = [0.5, 0.8, 1, 0.8, 0.5];
  const directions = new Uint8Array(points.count);
  for (let i = 0; i < points.count; i++) {
    let angle = Math.atan2(points.ny[i]!, points.nx[i]!);
    if (angle < 0) angle += Math.PI;
    const middle = Math.round((angle * ANGLE_BINS) / Math.PI);
    directions[i] = middle % ANGLE_BINS;
    const x = points.x[i]!;
    const y = points.y[i]!;
    const weight = points.weight[i]!;
    for (let d = -2; d <= 2; d++) {
      const turned = middle + d;
      const k = turned < 0 ? turned + ANGLE_BINS : turned >= ANGLE_BINS ? turned - ANGLE_BINS : turned;
      const at = (x * cos[k]! + y * sin[k]! + reach) / RHO_STEP_PX;
      const low = at | 0; // never below 0
      const share = at - low;
      const w = weight * spread[d + 2]!;
      votes[k * rhoBins + low]! += w * (1 - share);
      votes[k * rhoBins + low + 1]! += w * share;
    }
  }
  const facing = pointsByDirection(directions);
  const lines: Line[] = [];
  const least = Math.min(width, height) * 0.035;
  // the fullest bin of each angle is remembered, and looked up again only where a peak was cleared
  const fullest = Int32Array.from({ length: ANGLE_BINS }, (_, k) => fullestBin(votes, rhoBins, k));
  while (lines.length < most) {
    let k = 0;
    for (let i = 1; i < ANGLE_BINS; i++) if (votes[fullest[i]!]! > votes[fullest[k]!]!) k = i;
    if (votes[fullest[k]!]! < least) break;
    const r = fullest[k]! - k * rhoBins;
    lines.push(fitLine(points, facing, k, cos[k]!, sin[k]!, r * RHO_STEP_PX - reach));
    clearAround(votes, rhoBins, k, r);
    for (let dk = -CLEARED_ANGLES; dk <= CLEARED_ANGLES; dk++) {
      const kk = (k + dk + ANGLE_BINS) % ANGLE_BINS;
      fullest[kk] = fullestBin(votes, rhoBins, kk);
    }
  }
  return lines;
}

function fullestBin(votes: Float32Array, rhoBins: number, k: number): number {
  let best = k * rhoBins;
  for (let i = best + 1; i < (k + 1) * rhoBins; i++) if (votes[i]! > votes[best]!) best = i;
  return best;
}

const CLEARED_ANGLES = 4;

/** Empties the peak's surroundings; past the last angle a line returns with its sign changed. */
function clearAround(votes: Float32Array, rhoBins: number, k: number, r: number): void {
  for (let dk = -CLEARED_ANGLES; dk <= CLEARED_ANGLES; dk++) {
    let kk = k + dk;
    let rr = r;
    if (kk < 0 || kk >= ANGLE_BINS) {
      kk = (kk + ANGLE_BINS) % ANGLE_BINS;
      rr = rhoBins - 2 - r;
    }
    const width = 3;
    for (let dr = -width; dr <= width; dr++) {
      const at = rr + dr;
      if (at >= 0 && at < rhoBins) votes[kk * rhoBins + at] = 0;
    }
  }
}

/** Indices of the points sorted by direction; those of direction k stand from starts[k] to starts[k + 1]. */
interface PointsByDirection {
  readonly order: Int32Array;
  readonly starts: Int32Array;
}

function pointsByDirection(directions: Uint8Array): PointsByDirection {
  const starts = new Int32Array(ANGLE_BINS + 1);
  for (const direction of directions) starts[direction + 1]!++;
  for (let k = 0; k < ANGLE_BINS; k++) starts[k + 1]! += starts[k]!;
  const order = new Int32Array(directions.length);
  const next = starts.slice();
  directions.forEach((direction, i) => (order[next[direction]!++] = i));
  return { order, starts };
}

/** Points may face this many directions off the line's, about 20 degrees. */
const FACING_BINS = 20;

/** Total least squares on the points that lie within 3 px and point the same way. */
function fitLine(points: EdgePoints, { order, starts }: PointsByDirection, direction: number, nx: number, ny: number, rho: number): Line {
  let sw = 0;
  let sx = 0;
  let sy = 0;
  let sxx = 0;
  let sxy = 0;
  let syy = 0;
  for (let d = direction - FACING_BINS; d <= direction + FACING_BINS; d++) {
    const k = (d + ANGLE_BINS) % ANGLE_BINS;
    for (let at = starts[k]!; at < starts[k + 1]!; at++) {
      const i = order[at]!;
      const x = points.x[i]!;
      const y = points.y[i]!;
      if (Math.abs(x * nx + y * ny - rho) > 3) continue;
      const w = points.weight[i]!;
      sw += w;
      sx += w * x;
      sy += w * y;
      sxx += w * x * x;
      sxy += w * x * y;
      syy += w * y * y;
    }
  }
  if (sw < 5) return { nx, ny, rho, border: false };
  const mx = sx / sw;
  const my = sy / sw;
  const cxx = sxx / sw - mx * mx;
  const cxy = sxy / sw - mx * my;
  const cyy = syy / sw - my * my;
  const along = 0.5 * Math.atan2(2 * cxy, cxx - cyy);
  let fx = -Math.sin(along);
  let fy = Math.cos(along);
  if (fx * nx + fy * ny < 0) {
    fx = -fx;
    fy = -fy;
  }
  if (fx * nx + fy * ny < 0.995) return { nx, ny, rho, border: false };
  return { nx: fx, ny: fy, rho: mx * fx + my * fy, border: false };
}

/** The four borders of the picture as lines. */
export function borderLines(width: number, height: number): Line[] {
  return [
    { nx: 0, ny: 1, rho: 0, border: true },
    { nx: 1, ny: 0, rho: width, border: true },
    { nx: 0, ny: 1, rho: height, border: true },
    { nx: 1, ny: 0, rho: 0, border: true },
  ];
}

/** Drops lines that run within a few pixels of an earlier one across the picture. */
export function withoutTwins(lines: readonly Line[], width: number, height: number): Line[] {
  const kept: Line[] = [];
  for (const line of lines) {
    const twin = kept.some((other) => {
      if (other.border !== line.border) return false;
      const dot = other.nx * line.nx + other.ny * line.ny;
      if (Math.abs(dot) < 0.9995) return false;
      const at = other.nx * (width / 2) + other.ny * (height / 2) - other.rho;
      const mine = line.nx * (width / 2) + line.ny * (height / 2) - line.rho;
      return Math.abs(at - Math.sign(dot) * mine) < 3;
    });
    if (!twin) kept.push(line);
  }
  return kept;
}
