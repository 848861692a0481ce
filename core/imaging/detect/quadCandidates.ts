import { isConvexQuad, orderRing, polygonArea, type Quad } from '../geometry/quad';
import type { Point } from '../geometry/point';
import type { LineProfile } from './lineProfile';
import { meanOver } from './lineProfile';
import { pageProbability, type PageSegmentation } from './pageNetwork';

/** A quadrilateral made of four lines, sides in the order top, right, bottom, left of `quad`. */
export interface QuadCandidate {
  readonly quad: Quad;
  readonly sides: readonly [LineProfile, LineProfile, LineProfile, LineProfile];
  readonly quickScore: number;
}

/** How far outside the picture a corner may lie, as a share of the picture's size. */
const OVERHANG = 0.3;
/** Sides that meet at less than about 20 degrees make no page: the sine of that. */
const MIN_CROSSING = 0.35;

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Crossings of all pairs of n lines, and how much of a line is seen between two others; each worked out once. */
interface Crossings {
  /** Where lines i and j cross, at i · n + j; NaN where they do not within reach. */
  readonly xs: Float64Array;
  readonly ys: Float64Array;
  readonly seen: (side: number, from: number, to: number) => number;
}

function crossLines(lines: readonly LineProfile[], { width, height }: Size): Crossings {
  const n = lines.length;
  const xs = new Float64Array(n * n).fill(NaN);
  const ys = xs.slice();
  for (let i = 0; i < n; i++) {
    const a = lines[i]!.line;
    for (let j = i + 1; j < n; j++) {
      const b = lines[j]!.line;
      const det = a.nx * b.ny - b.nx * a.ny;
      if (Math.abs(det) < MIN_CROSSING) continue;
      const x = (a.rho * b.ny - b.rho * a.ny) / det;
      const y = (a.nx * b.rho - b.nx * a.rho) / det;
      if (
        x <= -OVERHANG * width ||
        x >= (1 + OVERHANG) * width ||
        y <= -OVERHANG * height ||
        y >= (1 + OVERHANG) * height
      )
        continue;
      xs[i * n + j] = xs[j * n + i] = x;
      ys[i * n + j] = ys[j * n + i] = y;
    }
  }
  const shares = new Float32Array(n * n * n).fill(-1);
  const position = (side: number, other: number): number =>
    positionOn(lines[side]!, { x: xs[side * n + other]!, y: ys[side * n + other]! });
  return {
    xs,
    ys,
    seen: (side, from, to) => {
      const at = (side * n + Math.min(from, to)) * n + Math.max(from, to);
      if (shares[at]! < 0) {
        const line = lines[side]!;
        const a = position(side, from);
        const b = position(side, to);
        shares[at] = line.line.border ? runsOut(line, a, b) : seenAlong(line, a, b);
      }
      return shares[at]!;
    },
  };
}

/** A candidate covers at least this share of the picture. */
const MIN_AREA = 0.06;
/** No side is shorter than this share of the picture's shorter side. */
const MIN_SIDE = 0.12;
/** Opposite sides are within about 53 degrees of parallel: the cosine of that. */
const MIN_FACING = 0.6;
/** Borders of the picture among a candidate's sides. */
const MAX_BORDERS = 3;

/** Four lines by index: i and k are opposite sides, j and l the other two. */
type Four = readonly [i: number, j: number, k: number, l: number];

/** Calls back for every set of four lines whose sides i, k are nearly parallel and whose sides cross; i is the smallest index and j < l, so each set comes up once. */
function forEachFour(
  lines: readonly LineProfile[],
  { xs }: Crossings,
  isSide: (line: number, from: number, to: number) => boolean,
  visit: (i: number, j: number, k: number, l: number) => void,
): void {
  const n = lines.length;
  for (let i = 0; i < n; i++) {
    const a = lines[i]!.line;
    for (let k = i + 1; k < n; k++) {
      const b = lines[k]!.line;
      if (Math.abs(a.nx * b.nx + a.ny * b.ny) < MIN_FACING) continue;
      for (let j = i + 1; j < n; j++) {
        if (j === k || !isSide(j, i, k)) continue;
        for (let l = j + 1; l < n; l++)
          if (l !== k && !Number.isNaN(xs[i * n + l]! + xs[k * n + l]!)) visit(i, j, k, l);
      }
    }
  }
}

/**
 * All quadrilaterals that four of the lines can make and that could be a page, best first by how much of their sides is
 * seen as a step edge and by how well they cover the network's page; those that run out of the picture on two sides follow
 * the others, and of those that all but coincide one is left.
 * @param lines - in pixels of the working picture; so are the corners that come back
 * @param picture - its size
 * @param most - how many to return, beside those that run out
 * @param segmentation - what the network says, or null where it was not asked
 */
export function enumerateQuads(
  lines: readonly LineProfile[],
  picture: Size,
  most: number,
  segmentation: PageSegmentation | null,
): QuadCandidate[] {
  const n = lines.length;
  const crossings = crossLines(lines, picture);
  const { xs, ys, seen } = crossings;
  // millions of times: a plain root is quicker than Math.hypot
  const apart = (p: number, q: number): number => Math.sqrt((xs[p]! - xs[q]!) ** 2 + (ys[p]! - ys[q]!) ** 2);
  const best = shortlist(most);
  const runningOut = shortlist(Math.ceil(most * RUNNING_OUT_SHARE));
  const onBorder = lines.map(({ line }) => (line.border ? 1 : 0));
  const minArea = MIN_AREA * picture.width * picture.height;
  const minSide = MIN_SIDE * Math.min(picture.width, picture.height);
  const cornersOf = ([i, j, k, l]: Four): Quad | null => {
    const corner = (at: number): Point => ({ x: xs[at]!, y: ys[at]! });
    const corners: Quad = [corner(i * n + j), corner(k * n + j), corner(k * n + l), corner(i * n + l)];
    const area = polygonArea(corners);
    const clockwise: Quad = area > 0 ? corners : [corners[0], corners[3], corners[2], corners[1]];
    return Math.abs(area) < minArea || !isConvexQuad(clockwise) ? null : corners;
  };
  // no length where two lines do not cross: that is not at least anything either
  const isSide = (j: number, i: number, k: number): boolean => apart(i * n + j, k * n + j) >= minSide;
  forEachFour(lines, crossings, isSide, (i, j, k, l) => {
    const borders = onBorder[i]! + onBorder[j]! + onBorder[k]! + onBorder[l]!;
    if (borders > MAX_BORDERS) return;
    const list = borders === 2 ? runningOut : best;
    const seenJ = seen(j, i, k);
    const seenK = seen(k, j, l);
    const seenL = seen(l, k, i);
    const seenI = seen(i, l, j);
    const seenLeast = Math.min(seenJ, seenK, seenL, seenI);
    // no mean is above the most: what cannot be wanted need not be measured
    if (!list.wants(Math.max(seenJ, seenK, seenL, seenI) + seenLeast + PAGE_WEIGHT)) return;
    const jLength = apart(i * n + j, k * n + j);
    const kLength = apart(k * n + j, k * n + l);
    const lLength = apart(k * n + l, i * n + l);
    const iLength = apart(i * n + l, i * n + j);
    if (kLength < minSide || lLength < minSide || iLength < minSide) return;
    // mean seen along all sides, the weakest counted twice
    const quickScore =
      (seenJ * jLength + seenK * kLength + seenL * lLength + seenI * iLength) /
        (jLength + kLength + lLength + iLength) +
      seenLeast;
    if (!list.wants(quickScore + PAGE_WEIGHT)) return;
    const corners = cornersOf([i, j, k, l]);
    if (corners === null) return;
    const score = quickScore + PAGE_WEIGHT * (segmentation === null ? 1 : coverage(segmentation, corners, picture));
    if (list.wants(score)) list.add(ordered(corners, [lines[j]!, lines[k]!, lines[l]!, lines[i]!], score));
  });
  return [...best.take(), ...runningOut.take()];
}

/** How much the network's page counts beside what is seen along the sides. */
const PAGE_WEIGHT = 1;
/** Where page is expected, as a share of the way from the middle to a corner or to the middle of a side. */
const WITHIN = 0.8;
/** Where none is, on the same way. */
const BEYOND = 1.15;

/** How well the quadrilateral covers the network's page at a glance, 0 to 1: page just within, none just beyond. */
function coverage(segmentation: PageSegmentation, corners: Quad, picture: Size): number {
  const x = (corners[0].x + corners[1].x + corners[2].x + corners[3].x) / 4;
  const y = (corners[0].y + corners[1].y + corners[2].y + corners[3].y) / 4;
  let sum = 0;
  let samples = 0;
  const sample = (dx: number, dy: number, share: number, page: boolean): void => {
    const p = pageProbability(segmentation, { x: x + dx * share, y: y + dy * share }, picture);
    if (p === null) return;
    samples++;
    sum += page ? p : 1 - p;
  };
  for (let c = 0; c < 4; c++) {
    const a = corners[c]!;
    const b = corners[(c + 1) % 4]!;
    const middleX = (a.x + b.x) / 2 - x;
    const middleY = (a.y + b.y) / 2 - y;
    sample(a.x - x, a.y - y, WITHIN, true);
    sample(middleX, middleY, WITHIN, true);
    sample(a.x - x, a.y - y, BEYOND, false);
    sample(middleX, middleY, BEYOND, false);
  }
  return samples === 0 ? 0 : sum / samples;
}

/** The candidate with its corners in their usual order and its sides along with them; sides[c] leaves corners[c]. */
function ordered(corners: Quad, sides: QuadCandidate['sides'], quickScore: number): QuadCandidate {
  const quad = orderRing(corners);
  const first = corners.indexOf(quad[0]);
  const forwards = corners[(first + 1) % 4] === quad[1];
  const side = (c: number): LineProfile => sides[(forwards ? first + c : first + 3 - c) % 4]!;
  return { quad, sides: [side(0), side(1), side(2), side(3)], quickScore };
}

/** A page that runs out on two sides shows only two edges and would never come before what shows four: it has places of its own, this share. */
const RUNNING_OUT_SHARE = 0.1;

/** Corners this near each other, in both directions: refining the one finds the other. */
const ALIKE_PX = 4;

const alike = (p: Quad, q: Quad): boolean =>
  p.every((a, c) => Math.abs(a.x - q[c]!.x) < ALIKE_PX && Math.abs(a.y - q[c]!.y) < ALIKE_PX);

interface Shortlist {
  readonly wants: (quickScore: number) => boolean;
  readonly add: (candidate: QuadCandidate) => void;
  readonly take: () => QuadCandidate[];
}

/** Keeps the best of many without sorting each time one is added. */
function shortlist(most: number): Shortlist {
  let kept: QuadCandidate[] = [];
  let bar = -Infinity;
  const sort = (): QuadCandidate[] => kept.sort((p, q) => q.quickScore - p.quickScore);
  return {
    wants: (quickScore) => kept.length < most || quickScore > bar,
    add: (candidate) => {
      kept.push(candidate);
      if (kept.length < most * 4) return;
      kept = sort().slice(0, most);
      bar = kept[most - 1]!.quickScore;
    },
    take: () => {
      const distinct: QuadCandidate[] = [];
      for (const candidate of sort()) {
        if (distinct.length === most) break;
        if (!distinct.some((other) => alike(candidate.quad, other.quad))) distinct.push(candidate);
      }
      return distinct;
    },
  };
}

/** Where on a line a point lies. */
export const positionOn = ({ line }: LineProfile, p: Point): number => -p.x * line.ny + p.y * line.nx;

/** How much of a side's stretch is seen, by the step in the picture and by the network. */
function seenAlong(side: LineProfile, from: number, to: number): number {
  const step = meanOver(side, side.step, from, to) ?? 0.1;
  // the network may make up for a step too faint to see; it does not speak against one that is seen
  return side.segmented === null
    ? step
    : Math.max(step, (step + (meanOver(side, side.segmented, from, to) ?? 0.1)) / 2);
}

/** A page that runs out of the picture is believed where the network sees it on the border. */
const runsOut = (border: LineProfile, from: number, to: number): number =>
  0.12 + (border.segmented === null ? 0 : 0.4 * Math.max(0, (meanOver(border, border.segmented, from, to) ?? 0) - 0.4));
