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

/** Where all pairs of n lines cross, and how much of a line is seen between two others; each worked out once. */
class Crossings {
  /** Where lines i and j cross, at i · n + j; NaN where they do not within reach. */
  readonly xs: Float64Array;
  readonly ys: Float64Array;
  private readonly shares: Float32Array;
  private readonly n: number;

  constructor(
    readonly lines: readonly LineProfile[],
    { width, height }: Size,
  ) {
    const n = lines.length;
    this.n = n;
    this.xs = new Float64Array(n * n).fill(NaN);
    this.ys = this.xs.slice();
    this.shares = new Float32Array(n * n * n).fill(-1);
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
        this.xs[i * n + j] = this.xs[j * n + i] = x;
        this.ys[i * n + j] = this.ys[j * n + i] = y;
      }
    }
  }

  /** How far two crossings of a line are from each other; NaN where one of them is none. */
  apart(side: number, from: number, to: number): number {
    const p = from * this.n + side;
    const q = to * this.n + side;
    // millions of times: a plain root is quicker than Math.hypot
    return Math.sqrt((this.xs[p]! - this.xs[q]!) ** 2 + (this.ys[p]! - this.ys[q]!) ** 2);
  }

  /** How much of a line is seen between two others. */
  seen(side: number, from: number, to: number): number {
    const at = (side * this.n + Math.min(from, to)) * this.n + Math.max(from, to);
    const known = this.shares[at]!;
    if (known >= 0) return known;
    const line = this.lines[side]!;
    const a = this.position(side, from);
    const b = this.position(side, to);
    return (this.shares[at] = line.line.border ? runsOut(line, a, b) : seenAlong(line, a, b));
  }

  private position(side: number, other: number): number {
    return positionOn(this.lines[side]!, this.at(side, other));
  }

  at(i: number, j: number): Point {
    return { x: this.xs[i * this.n + j]!, y: this.ys[i * this.n + j]! };
  }
}

/** A candidate covers at least this share of the picture. */
const MIN_AREA = 0.06;
/** No side is shorter than this share of the picture's shorter side. */
const MIN_SIDE = 0.12;
/** Opposite sides are within about 53 degrees of parallel: the cosine of that. */
const MIN_FACING = 0.6;
/** Borders of the picture among a candidate's sides. */
const MAX_BORDERS = 3;

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
  const search = new QuadSearch(lines, picture, most, segmentation);
  search.visitAll();
  return [...search.best.take(), ...search.runningOut.take()];
}

/** The search for quadrilaterals: sides i and k are opposite each other, j and l the other two. */
class QuadSearch {
  readonly best: Shortlist;
  readonly runningOut: Shortlist;
  private readonly crossings: Crossings;
  private readonly onBorder: readonly number[];
  private readonly minArea: number;
  private readonly minSide: number;

  constructor(
    private readonly lines: readonly LineProfile[],
    private readonly picture: Size,
    most: number,
    private readonly segmentation: PageSegmentation | null,
  ) {
    this.best = new Shortlist(most);
    this.runningOut = new Shortlist(Math.ceil(most * RUNNING_OUT_SHARE));
    this.crossings = new Crossings(lines, picture);
    this.onBorder = lines.map(({ line }) => (line.border ? 1 : 0));
    this.minArea = MIN_AREA * picture.width * picture.height;
    this.minSide = MIN_SIDE * Math.min(picture.width, picture.height);
  }

  /** Every set of four lines whose sides i, k are nearly parallel and whose sides cross; i is the smallest index and j < l, so each set comes up once. */
  visitAll(): void {
    const n = this.lines.length;
    const { xs } = this.crossings;
    for (let i = 0; i < n; i++) {
      const a = this.lines[i]!.line;
      for (let k = i + 1; k < n; k++) {
        const b = this.lines[k]!.line;
        if (Math.abs(a.nx * b.nx + a.ny * b.ny) < MIN_FACING) continue;
        for (let j = i + 1; j < n; j++) {
          // no length where two lines do not cross: that is not at least anything either
          if (j === k || !(this.crossings.apart(j, i, k) >= this.minSide)) continue;
          for (let l = j + 1; l < n; l++)
            if (l !== k && !Number.isNaN(xs[i * n + l]! + xs[k * n + l]!)) this.visit(i, j, k, l);
        }
      }
    }
  }

  private visit(i: number, j: number, k: number, l: number): void {
    const { crossings, onBorder, lines } = this;
    const borders = onBorder[i]! + onBorder[j]! + onBorder[k]! + onBorder[l]!;
    if (borders > MAX_BORDERS) return;
    const list = borders === 2 ? this.runningOut : this.best;
    const seenJ = crossings.seen(j, i, k);
    const seenK = crossings.seen(k, j, l);
    const seenL = crossings.seen(l, k, i);
    const seenI = crossings.seen(i, l, j);
    const seenLeast = Math.min(seenJ, seenK, seenL, seenI);
    // no mean is above the most: what cannot be wanted need not be measured
    if (!list.wants(Math.max(seenJ, seenK, seenL, seenI) + seenLeast + PAGE_WEIGHT)) return;
    const jLength = crossings.apart(j, i, k);
    const kLength = crossings.apart(k, j, l);
    const lLength = crossings.apart(l, k, i);
    const iLength = crossings.apart(i, l, j);
    if (kLength < this.minSide || lLength < this.minSide || iLength < this.minSide) return;
    // mean seen along all sides, the weakest counted twice
    const quickScore =
      (seenJ * jLength + seenK * kLength + seenL * lLength + seenI * iLength) /
        (jLength + kLength + lLength + iLength) +
      seenLeast;
    if (!list.wants(quickScore + PAGE_WEIGHT)) return;
    const corners = this.cornersOf(i, j, k, l);
    if (corners === null) return;
    const covered = this.segmentation === null ? 1 : coverage(this.segmentation, corners, this.picture);
    const score = quickScore + PAGE_WEIGHT * covered;
    if (list.wants(score)) list.add(ordered(corners, [lines[j]!, lines[k]!, lines[l]!, lines[i]!], score));
  }

  private cornersOf(i: number, j: number, k: number, l: number): Quad | null {
    const { crossings } = this;
    const corners: Quad = [crossings.at(i, j), crossings.at(k, j), crossings.at(k, l), crossings.at(i, l)];
    const area = polygonArea(corners);
    const clockwise: Quad = area > 0 ? corners : [corners[0], corners[3], corners[2], corners[1]];
    return Math.abs(area) < this.minArea || !isConvexQuad(clockwise) ? null : corners;
  }
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

/** Keeps the best of many without sorting each time one is added. */
class Shortlist {
  private kept: QuadCandidate[] = [];
  private bar = -Infinity;

  constructor(private readonly most: number) {}

  wants(quickScore: number): boolean {
    return this.kept.length < this.most || quickScore > this.bar;
  }

  add(candidate: QuadCandidate): void {
    this.kept.push(candidate);
    if (this.kept.length < this.most * 4) return;
    this.kept = this.sorted().slice(0, this.most);
    this.bar = this.kept[this.most - 1]!.quickScore;
  }

  /** The best that are not alike. */
  take(): QuadCandidate[] {
    const distinct: QuadCandidate[] = [];
    for (const candidate of this.sorted()) {
      if (distinct.length === this.most) break;
      if (!distinct.some((other) => alike(candidate.quad, other.quad))) distinct.push(candidate);
    }
    return distinct;
  }

  private sorted(): QuadCandidate[] {
    return this.kept.sort((p, q) => q.quickScore - p.quickScore);
  }
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
