import fc from 'fast-check';
import { anyQuad } from './arbitraries.test';
import { cornerClearancePx, isConvexQuad, orderCorners, polygonArea, turnQuad, wholePicture } from './quad';

describe('quadrilaterals', () => {
  it('come back whatever order their corners were in', () => {
    fc.assert(
      fc.property(anyQuad(), fc.integer({ min: 0, max: 23 }), (quad, shuffle) => {
        const mixed = [...quad].sort((a, b) => ((a.x * 7 + a.y * 13 + shuffle) % 17) - ((b.x * 7 + b.y * 13 + shuffle) % 17));
        const ordered = orderCorners(mixed);
        expect(isConvexQuad(ordered)).toBe(true);
        expect(polygonArea(ordered)).toBeCloseTo(polygonArea(quad), 6);
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
    const crossed = [{ x: 0, y: 0 }, { x: 10, y: 10 }, { x: 10, y: 0 }, { x: 0, y: 10 }] as const;
    expect(isConvexQuad(crossed)).toBe(false);
    const flat = [{ x: 0, y: 0 }, { x: 10, y: 0 }, { x: 20, y: 0 }, { x: 0, y: 10 }] as const;
    expect(cornerClearancePx(flat)).toBeCloseTo(0, 9);
    expect(polygonArea(wholePicture(30, 20))).toBe(600);
  });
});
