import fc from 'fast-check';
import { anyQuad } from './arbitraries.test';
import { cornerClearancePx, isConvexQuad, orderRing, polygonArea, turnQuad, wholePicture } from './quad';

describe('quadrilaterals', () => {
  it('come back clockwise from their highest side, whichever way round and from whichever corner they came', () => {
    fc.assert(
      fc.property(anyQuad(), fc.integer({ min: 0, max: 3 }), fc.boolean(), (quad, start, reversed) => {
        const ring = turnQuad(quad, start);
        const ordered = orderRing(reversed ? [ring[3], ring[2], ring[1], ring[0]] : ring);
        expect(isConvexQuad(ordered)).toBe(true);
        expect(ordered).toEqual(orderRing(quad));
        const heights = [0, 1, 2, 3].map((i) => ordered[i]!.y + ordered[(i + 1) % 4]!.y);
        expect(heights[0]).toBe(Math.min(...heights));
      }),
    );
  });

  it('are unchanged by four quarter turns, and change by one', () => {
    fc.assert(
      fc.property(anyQuad(), (quad) => {
        expect(turnQuad(turnQuad(turnQuad(turnQuad(quad, 1), 1), 1), 1)).toEqual(quad);
        expect(turnQuad(quad, 1)[1]).toEqual(quad[0]);
      }),
    );
  });

  it('know when they cross themselves or collapse', () => {
    const crossed = [
      { x: 0, y: 0 },
      { x: 10, y: 10 },
      { x: 10, y: 0 },
      { x: 0, y: 10 },
    ] as const;
    expect(isConvexQuad(crossed)).toBe(false);
    const flat = [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 20, y: 0 },
      { x: 0, y: 10 },
    ] as const;
    expect(cornerClearancePx(flat)).toBeCloseTo(0, 9);
    expect(polygonArea(wholePicture(30, 20))).toBe(600);
  });
});
