import { pointOnBentSide, type Bend } from '../geometry/bentOutline';
import { normalOf, type Point } from '../geometry/point';
import { cornerClearancePx } from '../geometry/quad';
import { developabilityResidual } from './developability';
import { edgeProfile } from './edgeProfile';
import { edgeProbability, pageProbability } from './pageNetwork';
import { edgeStrength, inPicture, type BentQuad, type SegmentedSearch } from './sideSearch';

/** Positions looked at along a side. */
export const SAMPLES_PER_SIDE = 40;
/** How far from a course its edges may lie, px. */
export const NEAR_PX = 3;
/** From this strength on a step is seen. */
export const SEEN_FROM = 0.5;
/** How much it counts for a side that a step is seen at a position. */
const SEEN_WEIGHT = 0.5;
/** How much the step's strength counts there. */
const STRENGTH_WEIGHT = 0.6;
/** Residual from which on an outline is taken for no sheet at all. */
const NO_SHEET = 20;
/** What being no sheet costs, in units of support. */
const RESIDUAL_WEIGHT = 0.4;
/** A corner nearer to the line of its neighbours makes no sheet, px. */
const MIN_CLEARANCE_PX = 1;
/** How far beyond a side the network is asked for page, as a share of the long side: there should be none. */
const BEYOND = 0.012;
/** The network's edge counts for this much of its page beyond. */
const EDGE_WEIGHT = 2;
/** The share of a side over which its direction is taken. */
const TANGENT_SHARE = 0.01;

/** What is seen along the sides of an outline. */
export interface EdgeSupport {
  /** Share of each side's positions at which a step is seen; 1 for a side out of the picture. */
  readonly seen: readonly number[];
  /** How well the picture bears the outline out, the more the better: up to about 4.4. */
  readonly support: number;
  /** How much the network contradicts it, -2 to 1, the less the better. */
  readonly disagreement: number;
  /** How unlike a sheet it bends: developabilityResidual, or NO_SHEET. */
  readonly residual: number;
}

/** Sums over the positions of one side. */
interface SideSums {
  readonly positions: number;
  readonly steps: number;
  readonly strength: number;
  readonly disagreement: number;
}

function lookAlong({ picture, polarity, segmentation }: SegmentedSearch, a: Point, b: Point, bend: Bend): SideSums {
  const beyond = BEYOND * Math.max(picture.width, picture.height);
  let [positions, steps, strength, disagreement] = [0, 0, 0, 0];
  for (let i = 0; i < SAMPLES_PER_SIDE; i++) {
    const t = (i + 0.5) / SAMPLES_PER_SIDE;
    const p = pointOnBentSide(a, b, bend, t);
    if (!inPicture(p, picture)) continue;
    const { nx, ny } = normalOf(p, pointOnBentSide(a, b, bend, t + TANGENT_SHARE));
    const { response, towards } = edgeProfile(picture, p, nx, ny, NEAR_PX);
    let most = 0;
    for (let k = 0; k < response.length; k++) most = Math.max(most, edgeStrength(response[k]!, towards[k]!, polarity));
    positions++;
    strength += most;
    if (most > SEEN_FROM) steps++;
    const outside = { x: p.x - nx * beyond, y: p.y - ny * beyond };
    disagreement +=
      (pageProbability(segmentation, outside, picture) ?? 0) - EDGE_WEIGHT * edgeProbability(segmentation, p, picture);
  }
  return { positions, steps, strength, disagreement };
}

/**
 * Looks along the sides of an outline: where a step is seen, what the network says, and whether a sheet can bend so.
 * @param outline - in pixels of the search's picture; its fixed sides are not looked along
 */
export function measureEdgeSupport(search: SegmentedSearch, { quad, bends }: BentQuad): EdgeSupport {
  const { width, height } = search.picture;
  const seen = [1, 1, 1, 1];
  let [support, disagreement] = [0, 0];
  for (let s = 0; s < 4; s++) {
    if (search.fixed[s] === true) continue;
    const side = lookAlong(search, quad[s]!, quad[(s + 1) % 4]!, bends[s]!);
    if (side.positions === 0) continue;
    disagreement += side.disagreement / (4 * SAMPLES_PER_SIDE);
    seen[s] = side.steps / side.positions;
    support += (SEEN_WEIGHT * side.steps + STRENGTH_WEIGHT * side.strength) / side.positions;
  }
  const residual =
    cornerClearancePx(quad) < MIN_CLEARANCE_PX ? NO_SHEET : developabilityResidual(quad, bends, width, height);
  return { seen, support: support - RESIDUAL_WEIGHT * Math.min(1, residual / NO_SHEET), disagreement, residual };
}
