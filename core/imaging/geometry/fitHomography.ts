import { multiplyHomographies, type Homography } from './homography';
import type { Point } from './point';
import { createNormalEquations } from './normalEquations';

/**
 * The homography that carries many points onto others best.
 * Method: weighted linear least squares on the eight unknowns with h[8] = 1, points scaled to the unit square first
 * (Hartley & Zisserman, Multiple View Geometry, 2nd ed., section 4.1 with the inhomogeneous solution). The error is
 * algebraic; for the small motions between frames of one scene it is as good as the geometric one.
 * @param from - at least 4 points, px; @param to - where they lie; @param weights - one each, 0 leaves a pair out
 * @param sizePx - the picture's long side, for the scaling
 * @returns null where the points do not determine it
 */
export function fitHomography(
  from: readonly Point[],
  to: readonly Point[],
  weights: readonly number[],
  sizePx: number,
): Homography | null {
  const equations = createNormalEquations(8);
  from.forEach((p, i) => {
    const w = weights[i]!;
    if (w <= 0) return;
    const x = p.x / sizePx;
    const y = p.y / sizePx;
    const u = to[i]!.x / sizePx;
    const v = to[i]!.y / sizePx;
    equations.add([x, y, 1, 0, 0, 0, -u * x, -u * y], u, w);
    equations.add([0, 0, 0, x, y, 1, -v * x, -v * y], v, w);
  });
  const h = equations.solve();
  if (h === null) return null;
  const unit = [h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1] as unknown as Homography;
  return multiplyHomographies(
    [sizePx, 0, 0, 0, sizePx, 0, 0, 0, 1],
    multiplyHomographies(unit, [1 / sizePx, 0, 0, 0, 1 / sizePx, 0, 0, 0, 1]),
  );
}
