import { recoverProportions } from '../geometry/aspectRatio';
import { pointOnBentSide } from '../geometry/bentOutline';
import { applyHomography, homographyBetween } from '../geometry/homography';
import { distance, type Point } from '../geometry/point';
import { wholePicture } from '../geometry/quad';
import type { FittedSheet, SheetEvidence } from './fittedSheet';

/**
 * Lays a page flat between its four sides, whatever bends them.
 * Method: the homography of the corners, and on it how far each side leaves its chord, faded out towards the side opposite
 * (Coons, "Surfaces for computer-aided design of space forms", 1967).
 * Limits: sides become straight; inside, nothing is known of the paper, so that lengths along it are not kept.
 * @param evidence - corners in photo pixels, and how the sides leave their chords
 * @returns where each place of the page lies in photo pixels, with the proportions of the corners
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function interpolateSides({ corners, bends, photoWidth, photoHeight, focalRatio }: SheetEvidence): FittedSheet {
  const homography = homographyBetween(wholePicture(1, 1), corners);
  /** From a place on a side's chord to the side. */
  const off = (side: number, u: number, v: number): Point => {
    const a = corners[side]!;
    const b = corners[(side + 1) % 4]!;
    const p = applyHomography(homography, { x: u, y: v });
    const q = pointOnBentSide(a, b, bends[side]!, distance(a, p) / distance(a, b));
    return { x: q.x - p.x, y: q.y - p.y };
  };
  return {
    aspect: recoverProportions(corners, photoWidth, photoHeight, focalRatio).aspect,
    toPhoto: (u, v) => {
      const p = applyHomography(homography, { x: u, y: v });
      const [top, right, bottom, left] = [off(0, u, 0), off(1, 1, v), off(2, u, 1), off(3, 0, v)];
      return {
        x: p.x + (1 - v) * top.x + v * bottom.x + (1 - u) * left.x + u * right.x,
        y: p.y + (1 - v) * top.y + v * bottom.y + (1 - u) * left.y + u * right.y,
      };
    },
  };
}
