import { cross, distanceToLine, lineCrossing, type Point } from '../geometry/point';
import { polygonArea } from '../geometry/quad';
import { connectedRegions } from '../raster/connectedRegions';
import type { PageSegmentation } from './pageNetwork';
import { quantile } from '../raster/quantile';

/** Sides of the network's page, as point pairs in map pixels; those along the picture's border are left out. */
export type SegmentedSide = readonly [from: Point, to: Point];

/** A page smaller than this share of the map is none. */
const LEAST_SHARE = 0.03;
/** A side this close to the border is where the page leaves the picture, not its edge. */
const BORDER_PX = 2.5;
/** Rounds of fitting sides and cutting them with each other; most settle after two. */
const ROUNDS = 4;

/**
 * The four sides of the network's page.
 * Method: the largest connected piece; the four points of its convex hull that span the most area; then, in turns, every
 * place of the piece's rim goes to its nearest side and each side is fitted anew to the middle half of its places in
 * distance (trimmed total least squares), which bends, bites and bulges do not move.
 */
export function sidesOfPage({ width, height, page }: PageSegmentation): SegmentedSide[] {
  const piece = largestPiece(page, width, height);
  if (piece === null) return [];
  const rim = rimOf(piece, width, height);
  const seen = rim.filter(
    ({ x, y }) => x >= BORDER_PX && y >= BORDER_PX && x <= width - BORDER_PX && y <= height - BORDER_PX,
  );
  let corners = widestFour(convexHull(rim));
  if (corners === null) return [];
  let sides: SegmentedSide[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const four = corners;
    const own: Point[][] = [[], [], [], []];
    for (const p of seen) own[nearestSide(p, four)]!.push(p);
    const fitted = own.map((places, s) => fitSide(places, four[s]!, four[(s + 1) % 4]!));
    const lines = fitted.map((line, s): SegmentedSide => line ?? [four[s]!, four[(s + 1) % 4]!]);
    const next = lines.map((line, s) => lineCrossing(...lines[(s + 3) % 4]!, ...line));
    sides = fitted.filter((line): line is SegmentedSide => line !== null);
    if (next.some((p) => p === null)) break;
    corners = next as [Point, Point, Point, Point];
  }
  return sides;
}

/** The places of a piece, in px, beside which there is something else. */
function rimOf(piece: Uint8Array, width: number, height: number): Point[] {
  const rim: Point[] = [];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (piece[y * width + x] === 0) continue;
      const inner = x > 0 && x < width - 1 && y > 0 && y < height - 1;
      const surrounded =
        inner &&
        piece[y * width + x - 1] === 1 &&
        piece[y * width + x + 1] === 1 &&
        piece[(y - 1) * width + x] === 1 &&
        piece[(y + 1) * width + x] === 1;
      if (!surrounded) rim.push({ x: x + 0.5, y: y + 0.5 });
    }
  }
  return rim;
}

/** Which side of four corners a place is nearest to. */
function nearestSide(p: Point, corners: readonly Point[]): number {
  let best = 0;
  let least = Infinity;
  for (let s = 0; s < 4; s++) {
    const off = Math.abs(distanceToLine(p, corners[s]!, corners[(s + 1) % 4]!));
    if (off >= least) continue;
    least = off;
    best = s;
  }
  return best;
}

/** Marks the largest connected piece of places that are more likely page than not; null where it is too small. */
function largestPiece(page: Float32Array, width: number, height: number): Uint8Array | null {
  const likely = new Uint8Array(page.length);
  for (let i = 0; i < likely.length; i++) likely[i] = Number(page[i]! >= 0.5);
  const pieces = connectedRegions(likely, width, height);
  const largest = pieces.reduce<readonly number[]>(
    (most, { pixels }) => (pixels.length > most.length ? pixels : most),
    [],
  );
  if (largest.length < LEAST_SHARE * width * height) return null;
  const out = new Uint8Array(page.length);
  for (const at of largest) out[at] = 1;
  return out;
}

/** Andrew's monotone chain, clockwise on screen. */
function convexHull(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((p, q) => p.x - q.x || p.y - q.y);
  const half = (walk: readonly Point[]): Point[] => {
    const chain: Point[] = [];
    for (const p of walk) {
      while (chain.length >= 2 && cross(chain.at(-2)!, chain.at(-1)!, p) <= 0) chain.pop();
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/** The four hull points, in order, that span the most area. */
function widestFour(hull: readonly Point[]): [Point, Point, Point, Point] | null {
  const n = hull.length;
  if (n < 4) return null;
  let best: [Point, Point, Point, Point] | null = null;
  let most = 0;
  for (let i = 0; i < n; i++) {
    for (let k = i + 2; k < n; k++) {
      // for a diagonal, the furthest point on either side
      const furthest = (from: number, to: number): Point | null => {
        let at: Point | null = null;
        let away = 0;
        for (let j = from; j < to; j++) {
          const off = Math.abs(cross(hull[i]!, hull[k]!, hull[j % n]!));
          if (off > away) {
            away = off;
            at = hull[j % n]!;
          }
        }
        return at;
      };
      const p = furthest(i + 1, k);
      const q = furthest(k + 1, n + i);
      if (p === null || q === null) continue;
      const area = Math.abs(polygonArea([hull[i]!, p, hull[k]!, q]));
      if (area > most) {
        most = area;
        best = [hull[i]!, p, hull[k]!, q];
      }
    }
  }
  return best;
}

/** A line through most of the places, near the side it is to replace; null with too few of them. */
function fitSide(places: readonly Point[], a: Point, b: Point): SegmentedSide | null {
  if (places.length < 6) return null;
  let from = a;
  let to = b;
  for (let round = 0; round < 3; round++) {
    const off = places.map((p) => Math.abs(distanceToLine(p, from, to)));
    const limit = Math.max(1.2, quantile(off, 0.6));
    const near = places.filter((_, i) => off[i]! <= limit);
    const mx = near.reduce((s, p) => s + p.x, 0) / near.length;
    const my = near.reduce((s, p) => s + p.y, 0) / near.length;
    let xx = 0;
    let xy = 0;
    let yy = 0;
    for (const { x, y } of near) {
      xx += (x - mx) ** 2;
      xy += (x - mx) * (y - my);
      yy += (y - my) ** 2;
    }
    const angle = 0.5 * Math.atan2(2 * xy, xx - yy);
    const reach = Math.hypot(b.x - a.x, b.y - a.y) / 2;
    const sign = Math.cos(angle) * (b.x - a.x) + Math.sin(angle) * (b.y - a.y) < 0 ? -1 : 1;
    const dx = Math.cos(angle) * reach * sign;
    const dy = Math.sin(angle) * reach * sign;
    from = { x: mx - dx, y: my - dy };
    to = { x: mx + dx, y: my + dy };
  }
  return [from, to];
}
