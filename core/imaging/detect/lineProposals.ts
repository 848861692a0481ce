import { withWorkspace } from '../kernels/workspace';
import type { EdgePoints } from './edgePoints';

/** A straight line x·nx + y·ny = rho, unit normal, working-picture pixels. */
export interface Line {
  readonly nx: number;
  readonly ny: number;
  readonly rho: number;
  /** True for the picture's own four borders, which stand in for a side that runs out of frame. */
  readonly border: boolean;
}

/** Directions told apart, over half a turn: one degree each. */
const ANGLE_BINS = 180;
/** Distances told apart, px. */
const RHO_STEP_PX = 2;
/** Votes that a line must have, as a share of the picture's short side. */
const LEAST_VOTES = 0.035;

/**
 * The most voted lines through the edge points.
 * Method: Hough transform in which a point votes only near its own gradient's direction (O'Gorman & Clowes 1976), peaks
 * taken one by one with their surroundings cleared, each then fitted to the points it explains.
 * @param most - how many lines at most, strongest first
 */
export function proposeLines(points: EdgePoints, width: number, height: number, most: number): Line[] {
  const reach = Math.ceil(Math.hypot(width, height));
  const rhoBins = Math.ceil((2 * reach) / RHO_STEP_PX) + 2;
  return withWorkspace((ws) => {
    const angles = Float64Array.from({ length: 2 * ANGLE_BINS }, (_, i) => {
      const angle = (Math.floor(i / 2) * Math.PI) / ANGLE_BINS;
      return i % 2 === 0 ? Math.cos(angle) : Math.sin(angle);
    });
    const votes = ws.of(new Float32Array(ANGLE_BINS * rhoBins));
    const starts = ws.of(new Int32Array(ANGLE_BINS + 1));
    const order = ws.i32(points.count);
    ws.kernels.voteForLines(
      points.planes.at,
      points.room,
      points.count,
      ws.of(angles).at,
      rhoBins,
      reach,
      votes.at,
      starts.at,
      order.at,
      ws.u8(points.count).at,
    );
    const firsts = starts.copy();
    const sums = ws.f64(SUMS);
    /** Total least squares on the points that lie within 3 px and point the same way. */
    const fit = (k: number, r: number): Line => {
      const [nx, ny, rho] = [angles[2 * k]!, angles[2 * k + 1]!, r * RHO_STEP_PX - reach];
      sums.fill(0);
      const add = (first: number, last: number): void =>
        ws.kernels.lineSums(
          points.planes.at,
          points.room,
          order.at,
          firsts[first]!,
          firsts[last]!,
          nx,
          ny,
          rho,
          sums.at,
        );
      add(Math.max(0, k - FACING_BINS), Math.min(ANGLE_BINS, k + FACING_BINS + 1));
      if (k < FACING_BINS) add(k - FACING_BINS + ANGLE_BINS, ANGLE_BINS);
      if (k >= ANGLE_BINS - FACING_BINS) add(0, k + FACING_BINS + 1 - ANGLE_BINS);
      return lineThrough(sums.copy(), nx, ny, rho);
    };
    const least = Math.min(width, height) * LEAST_VOTES;
    return peaksOf(votes.copy(), { rhoBins, least, most }).map(({ k, r }) => fit(k, r));
  });
}

/** The fullest bins of a Hough transform, one by one, each with its surroundings emptied before the next is looked for. */
function peaksOf(
  votes: Float32Array,
  { rhoBins, least, most }: { readonly rhoBins: number; readonly least: number; readonly most: number },
): { readonly k: number; readonly r: number }[] {
  const peaks: { readonly k: number; readonly r: number }[] = [];
  // the fullest bin of each angle is remembered, and looked up again only where a peak was cleared
  const fullest = Int32Array.from({ length: ANGLE_BINS }, (_, k) => fullestBin(votes, rhoBins, k));
  while (peaks.length < most) {
    let k = 0;
    for (let i = 1; i < ANGLE_BINS; i++) if (votes[fullest[i]!]! > votes[fullest[k]!]!) k = i;
    if (votes[fullest[k]!]! < least) break;
    const r = fullest[k]! - k * rhoBins;
    peaks.push({ k, r });
    clearAround(votes, rhoBins, k, r);
    for (let dk = -CLEARED_ANGLES; dk <= CLEARED_ANGLES; dk++) {
      const kk = (k + dk + ANGLE_BINS) % ANGLE_BINS;
      fullest[kk] = fullestBin(votes, rhoBins, kk);
    }
  }
  return peaks;
}

function fullestBin(votes: Float32Array, rhoBins: number, k: number): number {
  let best = k * rhoBins;
  for (let i = best + 1; i < (k + 1) * rhoBins; i++) if (votes[i]! > votes[best]!) best = i;
  return best;
}

/** Directions around a peak, to either side, that are emptied with it: a line's own votes spread over about so many. */
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

/** Points may face this many directions off the line's, about 20 degrees. */
const FACING_BINS = 20;
/** Sums over points: of their weights, and those times x, y, xx, xy, yy. */
const SUMS = 6;

/** The line through points of these sums, or the one given where they are few or another's. */
function lineThrough(sums: Float64Array, nx: number, ny: number, rho: number): Line {
  const [sw, sx, sy, sxx, sxy, syy] = [sums[0]!, sums[1]!, sums[2]!, sums[3]!, sums[4]!, sums[5]!];
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
export function mergeDuplicateLines(lines: readonly Line[], width: number, height: number): Line[] {
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
