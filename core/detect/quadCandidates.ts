import { isConvexQuad, orderRing, polygonArea, type Quad } from '../geometry/quad';
import type { Point } from '../geometry/point';
import type { LineEvidence } from './lineEvidence';
import { meanOver } from './lineEvidence';

/** A quadrilateral made of four lines, sides in the order top, right, bottom, left of `quad`. */
export interface QuadCandidate {
  readonly quad: Quad;
  readonly sides: readonly [LineEvidence, LineEvidence, LineEvidence, LineEvidence];
  readonly quickScore: number;
}

/** How far outside the picture a corner may lie, as a share of the picture's size. */
const OVERHANG = 0.3;
const LEAST_AREA_SHARE = 0.06;

const crossing = (p: LineEvidence, q: LineEvidence): Point | null => {
  const a = p.line;
  const b = q.line;
  const det = a.nx * b.ny - b.nx * a.ny;
  if (Math.abs(det) < 0.35) return null; // sides that meet at less than about 20 degrees make no page
  return { x: (a.rho * b.ny - b.rho * a.ny) / det, y: (a.nx * b.rho - b.nx * a.rho) / det };
};

/**
 * All quadrilaterals that four of the lines can make and that could be a page, best first by how much of their sides is
 * seen as a step edge.
 * @param most - how many to return
 */
export function enumerateQuads(lines: readonly LineEvidence[], width: number, height: number, most: number): QuadCandidate[] {
  const n = lines.length;
  const meets: (Point | null)[] = new Array<Point | null>(n * n).fill(null);
  const inReach = (p: Point | null): boolean =>
    p !== null && p.x > -OVERHANG * width && p.x < (1 + OVERHANG) * width && p.y > -OVERHANG * height && p.y < (1 + OVERHANG) * height;
  for (let i = 0; i < n; i++) {
    for (let j = i + 1; j < n; j++) {
      const p = crossing(lines[i]!, lines[j]!);
      meets[i * n + j] = meets[j * n + i] = inReach(p) ? p : null;
    }
  }
  const best: QuadCandidate[] = [];
  let bar = -Infinity;
  // i and k are opposite sides, j and l the other two; i is the smallest index and j < l, so each set comes up once
  for (let i = 0; i < n; i++) {
    for (let k = i + 1; k < n; k++) {
      const facing = Math.abs(lines[i]!.line.nx * lines[k]!.line.nx + lines[i]!.line.ny * lines[k]!.line.ny);
      if (facing < 0.6) continue;
      for (let j = i + 1; j < n; j++) {
        if (j === k) continue;
        const ij = meets[i * n + j];
        const kj = meets[k * n + j];
        if (!ij || !kj) continue;
        if (Math.hypot(ij.x - kj.x, ij.y - kj.y) < 0.12 * Math.min(width, height)) continue;
        for (let l = j + 1; l < n; l++) {
          if (l === k) continue;
          const il = meets[i * n + l];
          const kl = meets[k * n + l];
          if (!il || !kl) continue;
          const quad = orderRing([ij, kj, kl, il]);
          if (polygonArea(quad) < LEAST_AREA_SHARE * width * height || !isConvexQuad(quad)) continue;
          const borders = [i, j, k, l].filter((at) => lines[at]!.line.border).length;
          if (borders > 3) continue;
          const sides = sidesOf(quad, [lines[i]!, lines[j]!, lines[k]!, lines[l]!]);
          if (sides === null) continue;
          const quickScore = quickScoreOf(quad, sides);
          if (best.length >= most && quickScore <= bar) continue;
          best.push({ quad, sides, quickScore });
          if (best.length >= most * 4) {
            best.sort((p, q) => q.quickScore - p.quickScore);
            best.length = most;
            bar = best[most - 1]!.quickScore;
          }
        }
      }
    }
  }
  return best.sort((p, q) => q.quickScore - p.quickScore).slice(0, most);
}

/** Finds which line carries which side of the ordered quadrilateral. */
function sidesOf(quad: Quad, four: readonly LineEvidence[]): QuadCandidate['sides'] | null {
  const left = [...four];
  const sides: LineEvidence[] = [];
  for (let s = 0; s < 4; s++) {
    const a = quad[s]!;
    const b = quad[(s + 1) % 4]!;
    const at = left.findIndex(({ line }) => Math.abs(a.x * line.nx + a.y * line.ny - line.rho) < 0.5 && Math.abs(b.x * line.nx + b.y * line.ny - line.rho) < 0.5);
    if (at < 0) return null;
    sides.push(left[at]!);
    left.splice(at, 1);
  }
  return sides as unknown as QuadCandidate['sides'];
}

/** Where on a line a point lies. */
export const positionOn = ({ line }: LineEvidence, p: Point): number => -p.x * line.ny + p.y * line.nx;

/** How much of a side's stretch is seen, by the step in the picture and by the network. */
function seenAlong(side: LineEvidence, from: number, to: number): number {
  const step = meanOver(side, side.step, from, to) ?? 0.1;
  // the network may make up for a step too faint to see; it does not speak against one that is seen
  return side.mapped === null ? step : Math.max(step, (step + (meanOver(side, side.mapped, from, to) ?? 0.1)) / 2);
}

/** A page that runs out of the picture is believed where the network sees it on the border. */
const runsOut = (border: LineEvidence, from: number, to: number): number => 0.12 + (border.mapped === null ? 0 : 0.4 * Math.max(0, (meanOver(border, border.mapped, from, to) ?? 0) - 0.4));

/** Mean seen along all sides, the weakest counted twice. */
function quickScoreOf(quad: Quad, sides: QuadCandidate['sides']): number {
  let sum = 0;
  let weight = 0;
  let least = 1;
  for (let s = 0; s < 4; s++) {
    const side = sides[s]!;
    const a = quad[s]!;
    const b = quad[(s + 1) % 4]!;
    const seen = side.line.border ? runsOut(side, positionOn(side, a), positionOn(side, b)) : seenAlong(side, positionOn(side, a), positionOn(side, b));
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    sum += seen * length;
    weight += length;
    least = Math.min(least, seen);
  }
  return sum / weight + least;
}
