import { pointOnBentSide, SIDE_DETAIL, STRAIGHT, type Bend, type Bends } from '../geometry/bentOutline';
import { distance, distanceToLine, normalOf, type Point } from '../geometry/point';
import { mapQuad, polygonArea, type Quad } from '../geometry/quad';
import type { Fold } from './findFold';

/** One page of a spread. */
export interface Half {
  readonly quad: Quad;
  readonly bends: Bends;
  /** Which of its sides is the fold. */
  readonly foldSide: number;
}

/**
 * Cuts the outline of a spread along its fold.
 * @returns left and right, or upper and lower where the fold lies across
 */
export function cutAtFold(
  { quad, bends }: { readonly quad: Quad; readonly bends: Bends },
  { upright, at }: Fold,
): readonly [Half, Half] {
  const [tl, tr, br, bl] = quad;
  const [top, right, bottom, left] = bends;
  const [first, second] = upright ? [0, 2] : [3, 1];
  const on = (side: number, t: number): Point => pointOnBentSide(quad[side]!, quad[(side + 1) % 4]!, bends[side]!, t);
  const [p, q] = [on(first, at[0]), on(second, at[1])];
  const part = (side: number, from: number, to: number): Bend =>
    partOf(bends[side]!, (t) => on(side, from + (to - from) * t));
  return upright
    ? [
        { quad: [tl, p, q, bl], bends: [part(0, 0, at[0]), STRAIGHT, part(2, at[1], 1), left], foldSide: 1 },
        { quad: [p, tr, br, q], bends: [part(0, at[0], 1), right, part(2, 0, at[1]), STRAIGHT], foldSide: 3 },
      ]
    : [
        { quad: [tl, tr, q, p], bends: [top, part(1, 0, at[1]), STRAIGHT, part(3, at[0], 1)], foldSide: 2 },
        { quad: [p, q, br, bl], bends: [STRAIGHT, part(1, at[1], 1), bottom, part(3, 0, at[0])], foldSide: 0 },
      ];
}

/**
 * The half of a photo that a page of a book fills, squared to the fold: of the same size, and turned as the page is, which its other
 * sides, the photo's own, say nothing of. Its corners may lie outside the photo.
 */
export function squaredToFold({ quad, foldSide }: Half): Quad {
  const [a, b] = [quad[foldSide]!, quad[(foldSide + 1) % 4]!];
  const { nx, ny, length } = normalOf(a, b);
  const depth = polygonArea(quad) / length;
  const square = [a, b, { x: b.x + nx * depth, y: b.y + ny * depth }, { x: a.x + nx * depth, y: a.y + ny * depth }];
  return mapQuad(quad, (_, corner) => square[(corner - foldSide + 4) % 4]!);
}

/** How a part of a side leaves its own chord; a side bends too little for places on the two chords to differ. */
function partOf(whole: Bend, on: (t: number) => Point): Bend {
  if (whole.every((offset) => offset === 0)) return STRAIGHT;
  const [a, b] = [on(0), on(1)];
  return Array.from(
    { length: SIDE_DETAIL },
    (_, k) => -distanceToLine(on((k + 1) / (SIDE_DETAIL + 1)), a, b) / distance(a, b),
  );
}
