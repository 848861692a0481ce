import { isConvexQuad, orderRing, polygonArea, type Quad } from '../geometry/quad';
import type { Point } from '../geometry/point';
import type { LineEvidence } from './lineEvidence';
import { meanOver } from './lineEvidence';
import { pageAt, type PageMap } from './pageNetwork';

/** A quadrilateral made of four lines, sides in the order top, right, bottom, left of `quad`. */
export interface QuadCandidate {
  readonly quad: Quad;
  readonly sides: readonly [LineEvidence, LineEvidence, LineEvidence, LineEvidence];
  readonly quickScore: number;
}

/** How far outside the picture a corner may lie, as a share of the picture's size. */
const OVERHANG = 0.3;
const LEAST_AREA_SHARE = 0.06;

/** Crossings of all pairs of n lines, and how much of a line is seen between two others; each worked out once. */
interface Crossings {
  /** Where lines i and j cross, at i · n + j; NaN where they do not within reach. */
  readonly xs: Float64Array;
  readonly ys: Float64Array;
  readonly seen: (side: number, from: number, to: number) => number;
}

function crossLines(lines: readonly LineEvidence[], width: number, height: number): Crossings {
  const n = lines.length;
  const xs = new Float64Array(n * n).fill(NaN);
  const ys = xs.slice();
  for (let i = 0; i < n; i++) {
    const a = lines[i]!.line;
    for (let j = i + 1; j < n; j++) {
      const b = lines[j]!.line;
      const det = a.nx * b.ny - b.nx * a.ny;
      if (Math.abs(det) < 0.35) continue; // sides that meet at less than about 20 degrees make no page
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

/**
 * All quadrilaterals that four of the lines can make and that could be a page, best first by how much of their sides is
 * seen as a step edge and by how well they cover the network's page; those that run out of the picture on two sides follow
 * the others, and of those that all but coincide one is left.
 * @param lines - in pixels of the working picture, width × height; so are the corners that come back
 * @param most - how many to return, beside those that run out
 * @param map - what the network says, or null where it was not asked
 */
export function enumerateQuads(
  lines: readonly LineEvidence[],
  width: number,
  height: number,
  most: number,
  map: PageMap | null,
): QuadCandidate[] {
  const n = lines.length;
  const { xs, ys, seen } = crossLines(lines, width, height);
  // millions of times: a plain root is quicker than Math.hypot
  const apart = (p: number, q: number): number => Math.sqrt((xs[p]! - xs[q]!) ** 2 + (ys[p]! - ys[q]!) ** 2);
  const best = shortlist(most);
  const runningOut = shortlist(Math.ceil(most * RUNNING_OUT_SHARE));
  const onBorder = lines.map(({ line }) => (line.border ? 1 : 0));
  const leastArea = LEAST_AREA_SHARE * width * height;
  const leastSide = 0.12 * Math.min(width, height);
  // i and k are opposite sides, j and l the other two; i is the smallest index and j < l, so each set comes up once
  for (let i = 0; i < n; i++) {
    for (let k = i + 1; k < n; k++) {
      const facing = Math.abs(lines[i]!.line.nx * lines[k]!.line.nx + lines[i]!.line.ny * lines[k]!.line.ny);
      if (facing < 0.6) continue;
      for (let j = i + 1; j < n; j++) {
        if (j === k) continue;
        const ij = i * n + j;
        const kj = k * n + j;
        const jLength = apart(ij, kj);
        if (!(jLength >= leastSide)) continue; // nor where they do not cross
        const seenJ = seen(j, i, k);
        for (let l = j + 1; l < n; l++) {
          const il = i * n + l;
          const kl = k * n + l;
          if (l === k || Number.isNaN(xs[il]! + xs[kl]!)) continue;
          const borders = onBorder[i]! + onBorder[j]! + onBorder[k]! + onBorder[l]!;
          if (borders > 3) continue;
          const list = borders === 2 ? runningOut : best;
          const seenK = seen(k, j, l);
          const seenL = seen(l, k, i);
          const seenI = seen(i, l, j);
          const seenLeast = Math.min(seenJ, seenK, seenL, seenI);
          // no mean is above the most: what cannot be wanted need not be measured
          if (!list.wants(Math.max(seenJ, seenK, seenL, seenI) + seenLeast + MAP_SAY)) continue;
          const kLength = apart(kj, kl);
          const lLength = apart(kl, il);
          const iLength = apart(il, ij);
          if (kLength < leastSide || lLength < leastSide || iLength < leastSide) continue;
          // mean seen along all sides, the weakest counted twice
          const quickScore =
            (seenJ * jLength + seenK * kLength + seenL * lLength + seenI * iLength) /
              (jLength + kLength + lLength + iLength) +
            seenLeast;
          if (!list.wants(quickScore + MAP_SAY)) continue;
          const corner = (at: number): Point => ({ x: xs[at]!, y: ys[at]! });
          const corners: Quad = [corner(ij), corner(kj), corner(kl), corner(il)];
          const area = polygonArea(corners);
          if (
            Math.abs(area) < leastArea ||
            !isConvexQuad(area > 0 ? corners : [corners[0], corners[3], corners[2], corners[1]])
          )
            continue;
          const score = quickScore + MAP_SAY * (map === null ? 1 : likeThePage(map, corners, width, height));
          if (list.wants(score)) list.add(ordered(corners, [lines[j]!, lines[k]!, lines[l]!, lines[i]!], score));
        }
      }
    }
  }
  return [...best.take(), ...runningOut.take()];
}

/** How much the network's page counts beside what is seen along the sides. */
const MAP_SAY = 1;
/** Places looked at, as shares of the way from the middle to a corner or to the middle of a side. */
const WITHIN = 0.8;
const BEYOND = 1.15;

/** How well the quadrilateral covers the network's page at a glance, 0 to 1: page just within, none just beyond. */
function likeThePage(map: PageMap, corners: Quad, width: number, height: number): number {
  const x = (corners[0].x + corners[1].x + corners[2].x + corners[3].x) / 4;
  const y = (corners[0].y + corners[1].y + corners[2].y + corners[3].y) / 4;
  let sum = 0;
  let looks = 0;
  const look = (dx: number, dy: number, share: number, page: boolean): void => {
    const p = pageAt(map, x + dx * share, y + dy * share, width, height);
    if (p === null) return;
    looks++;
    sum += page ? p : 1 - p;
  };
  for (let c = 0; c < 4; c++) {
    const a = corners[c]!;
    const b = corners[(c + 1) % 4]!;
    const middleX = (a.x + b.x) / 2 - x;
    const middleY = (a.y + b.y) / 2 - y;
    look(a.x - x, a.y - y, WITHIN, true);
    look(middleX, middleY, WITHIN, true);
    look(a.x - x, a.y - y, BEYOND, false);
    look(middleX, middleY, BEYOND, false);
  }
  return looks === 0 ? 0 : sum / looks;
}

/** The candidate with its corners in their usual order and its sides along with them; sides[c] leaves corners[c]. */
function ordered(corners: Quad, sides: QuadCandidate['sides'], quickScore: number): QuadCandidate {
  const quad = orderRing(corners);
  const first = corners.indexOf(quad[0]);
  const forwards = corners[(first + 1) % 4] === quad[1];
  const side = (c: number): LineEvidence => sides[(forwards ? first + c : first + 3 - c) % 4]!;
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
export const positionOn = ({ line }: LineEvidence, p: Point): number => -p.x * line.ny + p.y * line.nx;

/** How much of a side's stretch is seen, by the step in the picture and by the network. */
function seenAlong(side: LineEvidence, from: number, to: number): number {
  const step = meanOver(side, side.step, from, to) ?? 0.1;
  // the network may make up for a step too faint to see; it does not speak against one that is seen
  return side.mapped === null ? step : Math.max(step, (step + (meanOver(side, side.mapped, from, to) ?? 0.1)) / 2);
}

/** A page that runs out of the picture is believed where the network sees it on the border. */
const runsOut = (border: LineEvidence, from: number, to: number): number =>
  0.12 + (border.mapped === null ? 0 : 0.4 * Math.max(0, (meanOver(border, border.mapped, from, to) ?? 0) - 0.4));
