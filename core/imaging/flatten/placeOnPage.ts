import { applyHomography, homographyBetween } from '../geometry/homography';
import type { Point } from '../geometry/point';
import { wholePicture } from '../geometry/quad';
import type { PageShape } from './flattenPage';

type Laid = Pick<PageShape, 'corners' | 'sheet'>;

/** Looks up where in the photo (px) a place of the page lies, given as shares of its width and height. */
export function pageToPhoto({ corners, sheet }: Laid): (u: number, v: number) => Point {
  if (sheet !== null) return sheet.toPhoto;
  const forth = homographyBetween(wholePicture(1, 1), corners);
  return (u, v) => applyHomography(forth, { x: u, y: v });
}

/** Steps of Newton's method at most; four are usual. */
const NEWTON_STEPS = 12;
/** Step of the differences that stand for derivatives, as a share of the page. */
const DERIVATIVE_STEP = 1e-4;
/** No place this far out is looked for, in shares of the page. */
const OUTSIDE = 0.3;

/**
 * Looks up which place of the page, in shares, is seen at a place of the photo (px).
 * Method: the inverse homography; for a sheet that is not flat, Newton's method on its surface.
 */
export function photoToPage({ corners, sheet }: Laid): (seen: Point) => Point {
  if (sheet === null) {
    const back = homographyBetween(corners, wholePicture(1, 1));
    return (seen) => applyHomography(back, seen);
  }
  return (seen) => {
    let u = 0.5;
    let v = 0.5;
    for (let k = 0; k < NEWTON_STEPS; k++) {
      const p = sheet.toPhoto(u, v);
      const pu = sheet.toPhoto(u + DERIVATIVE_STEP, v);
      const pv = sheet.toPhoto(u, v + DERIVATIVE_STEP);
      const [a, b, c, d] = [
        (pu.x - p.x) / DERIVATIVE_STEP,
        (pv.x - p.x) / DERIVATIVE_STEP,
        (pu.y - p.y) / DERIVATIVE_STEP,
        (pv.y - p.y) / DERIVATIVE_STEP,
      ];
      const det = a * d - b * c;
      if (Math.abs(det) < 1e-9) break;
      const dx = seen.x - p.x;
      const dy = seen.y - p.y;
      u = Math.min(1 + OUTSIDE, Math.max(-OUTSIDE, u + (d * dx - b * dy) / det));
      v = Math.min(1 + OUTSIDE, Math.max(-OUTSIDE, v + (a * dy - c * dx) / det));
    }
    return { x: u, y: v };
  };
}
