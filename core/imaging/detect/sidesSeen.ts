import { pointOnBentSide, type Bends } from '../geometry/bentOutline';
import { distance, type Point } from '../geometry/point';
import { cornerClearancePx, type Quad } from '../geometry/quad';
import type { ColourPicture } from './colourPicture';
import { edgeAt, pageAt, type PageMap } from './pageNetwork';
import { POLARITY_SAY } from './refineOutline';
import { sheetDoubt } from './sheetDoubt';
import { edgeProfile } from './edgeProfile';

/** Places looked at along a side. */
export const PLACES = 40;
/** How far from a course its crests may lie, px. */
export const NEAR_PX = 3;
/** Response to a step, in levels, from which on it is one at all, and at which it counts half. */
const LEAST_STEP = 0.7;
const HALF_STEP = 2;
/** From this strength on a step is seen. */
export const SEEN_FROM = 0.5;
/** How much being seen and being strong count. */
const SEEN_SAY = 0.5;
const STRENGTH_SAY = 0.6;
/** An outline bends as no sheet does; how much that counts. */
const NO_SHEET = 20;
const UNLIKE_SAY = 0.4;
/** A corner nearer to the line of its neighbours makes no sheet. */
const LEAST_CLEARANCE_PX = 1;
/** How far beyond a side the network is asked for page, as a share of the long side: there should be none. */
const BEYOND = 0.012;
/** The network's edge counts for this much of its page beyond. */
const EDGE_SAY = 2;

/** What is seen along the sides of an outline. */
export interface SidesSeen {
  /** Share of each side's places at which a step is seen; 1 for a side out of the picture. */
  readonly seen: readonly number[];
  /** How well the picture bears the outline out, the more the better. */
  readonly worth: number;
  /** How much the network contradicts it, the less the better. */
  readonly doubt: number;
  /** How unlike a sheet it bends. */
  readonly unlike: number;
}

/** How much a step counts, by its response in levels: 1 is very clear; one that does not get paler inwards counts for less. */
export const strengthOf = (response: number, towards: number, paleness: number): number =>
  response < LEAST_STEP ? 0 : (response / (response + HALF_STEP)) * (1 + POLARITY_SAY * paleness * towards);

/** Whether a place is so far within the picture that a step across it can be read. */
export const inPicture = (p: Point, { width, height }: ColourPicture): boolean =>
  p.x >= 4 && p.y >= 4 && p.x <= width - 4 && p.y <= height - 4;

/**
 * Looks along the sides of an outline.
 * @param picture - pixels of its own; so are the corners
 * @param fixed - sides that are not looked along
 * @param paleness - how much paler than its surroundings the sheet is, -1 to 1
 * @param map - what the network says of the picture
 */
export function lookAlong(
  picture: ColourPicture,
  quad: Quad,
  bends: Bends,
  fixed: readonly boolean[],
  paleness: number,
  map: PageMap,
): SidesSeen {
  const { width, height } = picture;
  const beyond = BEYOND * Math.max(width, height);
  const seen = [1, 1, 1, 1];
  let worth = 0;
  let doubt = 0;
  for (let s = 0; s < 4; s++) {
    if (fixed[s] === true) continue;
    const a = quad[s]!;
    const b = quad[(s + 1) % 4]!;
    let [places, steps, strength] = [0, 0, 0];
    for (let i = 0; i < PLACES; i++) {
      const t = (i + 0.5) / PLACES;
      const p = pointOnBentSide(a, b, bends[s]!, t);
      if (!inPicture(p, picture)) continue;
      const q = pointOnBentSide(a, b, bends[s]!, t + 0.01);
      const step = distance(p, q) || 1;
      const nx = -(q.y - p.y) / step;
      const ny = (q.x - p.x) / step;
      const { response, towards } = edgeProfile(picture, p, nx, ny, NEAR_PX);
      let most = 0;
      for (let k = 0; k < response.length; k++) most = Math.max(most, strengthOf(response[k]!, towards[k]!, paleness));
      places++;
      strength += most;
      if (most > SEEN_FROM) steps++;
      doubt +=
        ((pageAt(map, p.x - nx * beyond, p.y - ny * beyond, width, height) ?? 0) -
          EDGE_SAY * edgeAt(map, p.x, p.y, width, height)) /
        (4 * PLACES);
    }
    if (places === 0) continue;
    seen[s] = steps / places;
    worth += (SEEN_SAY * steps + STRENGTH_SAY * strength) / places;
  }
  const unlike = cornerClearancePx(quad) < LEAST_CLEARANCE_PX ? NO_SHEET : sheetDoubt(quad, bends, width, height);
  return { seen, worth: worth - UNLIKE_SAY * Math.min(1, unlike / NO_SHEET), doubt, unlike };
}
