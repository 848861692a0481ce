import { recoverProportions } from '../geometry/aspectRatio';
import { distance } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { STANDARD_SHEETS } from '../geometry/standardSheets';

/** Logarithms of the usual sheets' long side over their short side. */
const USUAL_RATIOS = Object.values(STANDARD_SHEETS).map(Math.log);
/** No miss is larger than this. */
const MAX_MISS = 0.5;

/**
 * Distance of the recovered proportions from the usual sheets', as a logarithm cut off at MAX_MISS.
 * @param picture - the photo's size, in the quadrilateral's pixels
 */
export function aspectMiss(quad: Quad, picture: { readonly width: number; readonly height: number }): number {
  const { aspect } = recoverProportions(quad, picture.width, picture.height);
  const ratio = Math.abs(Math.log(aspect));
  return Math.min(MAX_MISS, ...USUAL_RATIOS.map((standard) => Math.abs(ratio - standard)));
}

/** Mean distance of the corner angles from a right angle, as a share of a right angle. */
export function cornerSkew(quad: Quad): number {
  let sum = 0;
  for (let i = 0; i < 4; i++) {
    const p = quad[i]!;
    const q = quad[(i + 1) % 4]!;
    const r = quad[(i + 3) % 4]!;
    const angle = Math.acos(
      ((q.x - p.x) * (r.x - p.x) + (q.y - p.y) * (r.y - p.y)) / (distance(p, q) * distance(p, r)),
    );
    sum += Math.abs(angle - Math.PI / 2) / (Math.PI / 2);
  }
  return sum / 4;
}
