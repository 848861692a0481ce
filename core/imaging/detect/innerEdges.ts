import { normalOf } from '../geometry/point';
import { polygonArea, type Quad } from '../geometry/quad';
import { meanOver, type LineProfile } from './lineProfile';
import type { QuadCandidate } from './quadCandidates';

/** How far from its sides the inside of a quadrilateral begins, as a share of the root of its area. */
const MARGIN = 0.05;
/** Chords shorter than this say nothing, px. */
const MIN_CHORD_PX = 4;
/** Sum of edges, in roots of the area, that counts half. */
const HALF_SUM = 2;

/**
 * How much step edge runs through the inside: where a candidate straddles two sheets, a true edge crosses it.
 * @param lines - all lines that were kept
 * @returns of all such edges together, 0 to 1, and of the strongest, in roots of the area
 */
export function innerEdgesOf(
  { quad, sides }: QuadCandidate,
  lines: readonly LineProfile[],
): { readonly all: number; readonly most: number } {
  const size = Math.sqrt(polygonArea(quad));
  let sum = 0;
  let most = 0;
  for (const other of lines) {
    if (other.line.border || sides.includes(other)) continue;
    const chord = chordInside(other, quad, MARGIN * size);
    if (chord === null) continue;
    const seen = ((meanOver(other, other.step, chord[0], chord[1]) ?? 0) * (chord[1] - chord[0])) / size;
    sum += seen;
    most = Math.max(most, seen);
  }
  return { all: sum / (sum + HALF_SUM), most };
}

/** The positions between which a line lies inside the quadrilateral, at least `margin` px from its sides. */
function chordInside({ line, start, length }: LineProfile, quad: Quad, margin: number): [number, number] | null {
  let low = start;
  let high = start + length;
  for (let s = 0; s < 4; s++) {
    const a = quad[s]!;
    const { nx, ny } = normalOf(a, quad[(s + 1) % 4]!);
    // depth below the side at position t along the line: depth0 + t * slope
    const depth0 = (line.rho * line.nx - a.x) * nx + (line.rho * line.ny - a.y) * ny - margin;
    const slope = -line.ny * nx + line.nx * ny;
    if (Math.abs(slope) < 1e-9) {
      if (depth0 < 0) return null;
    } else if (slope > 0) low = Math.max(low, -depth0 / slope);
    else high = Math.min(high, -depth0 / slope);
  }
  return high - low > MIN_CHORD_PX ? [low, high] : null;
}
