import { bendAt, type Bend } from '../geometry/bentOutline';
import { lerpPoint, normalOf, type Point } from '../geometry/point';
import { peakOffset } from '../geometry/peakOffset';
import { edgeProfile } from './edgeProfile';
import { edgeProbability } from './pageNetwork';
import { polarityFactor, type SideSearch } from './sideSearch';

/** The strongest step edges seen across a side, one position along it after another. */
export interface EdgeMaxima {
  /** Positions along the side: shares of the chord as 2t - 1. */
  readonly positions: number[];
  /** The first maximum of each position; one more start than positions. */
  readonly starts: number[];
  /** Of each maximum: its distance in px from the course that was looked along, positive inwards, and how much it counts. */
  readonly offsets: number[];
  readonly strengths: number[];
}

/** Positions looked at along a side. */
export const SAMPLES = 64;
/** Maxima kept at a position. */
const MAX_MAXIMA = 3;
/** Response, in levels, below which a maximum is noise: lower drowns faint edges in grain, higher loses paper on paper. */
const MIN_RESPONSE = 1.5;
/** Response, in levels, at which a maximum counts half of a very strong one. */
const HALF_RESPONSE = 6;
/** What a step counts where the network sees no edge of the page, beside one where it is sure of it. */
const UNSEGMENTED = 0.5;
/** What is left out at both ends, where the neighbouring side is nearer: this share of the side at most. */
const MAX_END = 0.12;
/** What is left out at both ends, as a share of the reach. */
const END_OF_REACH = 0.8;

/**
 * Step edges across the side from a to b, to a fraction of a pixel (parabola through the three responses about a maximum).
 * @param bend - the course looked along: offsets are counted from it
 * @param reachPx - how far to either side to look
 */
export function findEdgeMaxima(search: SideSearch, a: Point, b: Point, bend: Bend, reachPx: number): EdgeMaxima {
  const { width, height } = search.picture;
  const { nx, ny, length } = normalOf(a, b);
  const maxima: EdgeMaxima = { positions: [], starts: [0], offsets: [], strengths: [] };
  const margin = Math.min(MAX_END, (reachPx * END_OF_REACH) / length);
  for (let k = 0; k < SAMPLES; k++) {
    const t = margin + ((1 - 2 * margin) * (k + 0.5)) / SAMPLES;
    const known = -bendAt(bend, t) * length;
    const p = lerpPoint(a, b, t);
    const q = { x: p.x + nx * known, y: p.y + ny * known };
    if (q.x < 2 || q.y < 2 || q.x > width - 2 || q.y > height - 2) continue;
    if (addMaximaAcross(maxima, search, q, { nx, ny }, reachPx)) {
      maxima.positions.push(2 * t - 1);
      maxima.starts.push(maxima.offsets.length);
    }
  }
  return maxima;
}

/** Adds the strongest few step edges on the profile through p along the inward normal; false where there is none. */
function addMaximaAcross(
  { offsets, strengths }: EdgeMaxima,
  { picture, polarity, segmentation }: SideSearch,
  p: Point,
  { nx, ny }: { readonly nx: number; readonly ny: number },
  reachPx: number,
): boolean {
  const reach = Math.ceil(reachPx);
  const { response, towards } = edgeProfile(picture, p, nx, ny, reach);
  const first = offsets.length;
  for (let k = 1; k < response.length - 1; k++) {
    const m = response[k]!;
    if (m < MIN_RESPONSE || m < response[k - 1]! || m <= response[k + 1]!) continue;
    // the normal points inwards: a step up is the way a pale sheet's edge goes, a step down a printed band's
    const offset = k - reach + peakOffset(response[k - 1]!, m, response[k + 1]!);
    const at = { x: p.x + nx * offset, y: p.y + ny * offset };
    const seen =
      segmentation === null ? 1 : UNSEGMENTED + (1 - UNSEGMENTED) * edgeProbability(segmentation, at, picture);
    const strength = (m / (m + HALF_RESPONSE)) * polarityFactor(towards[k]!, polarity) * seen;
    if (offsets.length - first < MAX_MAXIMA) {
      offsets.push(offset);
      strengths.push(strength);
      continue;
    }
    let weakest = first;
    for (let c = first + 1; c < offsets.length; c++) if (strengths[c]! < strengths[weakest]!) weakest = c;
    if (strength <= strengths[weakest]!) continue;
    offsets[weakest] = offset;
    strengths[weakest] = strength;
  }
  return offsets.length > first;
}
