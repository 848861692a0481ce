import fc from 'fast-check';
import { isConvexQuad, type Quad } from './quad';

/** Convex quadrilaterals, clockwise from the top left, at least `minSidePx` from being degenerate. */
export const anyQuad = (minSidePx = 40): fc.Arbitrary<Quad> => {
  const offset = fc.double({ min: 0, max: 0.9 * minSidePx, noNaN: true });
  return fc
    .tuple(
      fc.double({ min: 3 * minSidePx, max: 2000, noNaN: true }),
      fc.double({ min: 3 * minSidePx, max: 2000, noNaN: true }),
      fc.array(offset, { minLength: 8, maxLength: 8 }),
    )
    .map(([w, h, o]): Quad => [
      { x: o[0]!, y: o[1]! },
      { x: w - o[2]!, y: o[3]! },
      { x: w - o[4]!, y: h - o[5]! },
      { x: o[6]!, y: h - o[7]! },
    ]);
};

it('makes convex quadrilaterals', () => {
  fc.assert(fc.property(anyQuad(), isConvexQuad));
});
