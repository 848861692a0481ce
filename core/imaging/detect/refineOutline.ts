import type { Bends } from '../geometry/bentOutline';
import { distance } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { fitSide } from './fitSide';
import { addBend, bendBetween, intersectCurves } from './sideCurve';
import type { BentQuad, SideSearch } from './sideSearch';

export interface RefinedOutline extends BentQuad {
  /** Share of edge samples that lie on the fitted sides, weakest side. */
  readonly leastSupport: number;
}

/**
 * Moves each side onto the strongest nearby step edge, to a fraction of a pixel, and lets it bend.
 * Method: profiles across the side are correlated with a step (edgeMaxima.ts); a polynomial is fitted through the maxima
 * robustly (fitSide.ts), so thumbs, pens and printed rules that hold a minority of the samples fall out. Neighbouring curves
 * are then cut with each other.
 * @param start - outline in pixels of the search's picture; so is what comes back
 * @param reachPx - how far to either side to look
 */
export function refineOutline(search: SideSearch, start: BentQuad, reachPx: number): RefinedOutline {
  const { quad: from, bends } = start;
  const curves = [0, 1, 2, 3].map((s) => {
    const a = from[s]!;
    const b = from[(s + 1) % 4]!;
    return search.fixed[s] === true
      ? { a, b, powers: addBend([0], bends[s]!, distance(a, b)), support: 1 }
      : fitSide(search, a, b, bends[s]!, reachPx);
  });
  const quad = [0, 1, 2, 3].map((s) => intersectCurves(curves[(s + 3) % 4]!, curves[s]!, from[s]!)) as unknown as Quad;
  const found = curves.map((curve, s) => bendBetween(curve, quad[s]!, quad[(s + 1) % 4]!)) as unknown as Bends;
  return { quad, bends: found, leastSupport: Math.min(...curves.map((c) => c.support)) };
}
