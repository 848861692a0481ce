import fc from 'fast-check';
import { laySide, moveSide, straightRectangle } from './editQuad';
import { distanceToLine } from './point';
import { isConvexQuad, polygonArea, type Quad } from './quad';

const quad: Quad = [
  { x: 100, y: 100 },
  { x: 900, y: 140 },
  { x: 860, y: 1200 },
  { x: 130, y: 1160 },
];

describe('moving a side', () => {
  it('keeps it parallel at the distance asked, and its neighbours on their lines', () =>
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3 }), fc.double({ min: -120, max: 120, noNaN: true }), (side, px) => {
        const moved = moveSide(quad, side, px)!;
        for (const k of [side, (side + 1) % 4])
          expect(distanceToLine(moved[k]!, quad[side]!, quad[(side + 1) % 4]!)).toBeCloseTo(-px, 6);
        expect(distanceToLine(moved[side]!, quad[(side + 3) % 4]!, quad[side]!)).toBeCloseTo(0, 6);
        expect(distanceToLine(moved[(side + 1) % 4]!, quad[(side + 1) % 4]!, quad[(side + 2) % 4]!)).toBeCloseTo(0, 6);
      }),
    ));

  it('cannot lay it along a neighbour', () => {
    expect(laySide(quad, 0, quad[0], quad[3])).toBeNull();
  });
});

describe('straightening only', () => {
  it('gives the smallest rectangle of the page’s direction that holds it', () => {
    const box = straightRectangle(quad);
    expect(isConvexQuad(box)).toBe(true);
    box.forEach((p, i) => {
      const before = box[(i + 3) % 4]!;
      const after = box[(i + 1) % 4]!;
      expect((before.x - p.x) * (after.x - p.x) + (before.y - p.y) * (after.y - p.y)).toBeCloseTo(0, 6);
    });
    for (const p of quad) box.forEach((a, i) => expect(distanceToLine(p, a, box[(i + 1) % 4]!)).toBeGreaterThan(-1e-6));
    expect(polygonArea(box)).toBeGreaterThan(polygonArea(quad));
    const upright: Quad = [
      { x: 0, y: 0 },
      { x: 30, y: 0 },
      { x: 30, y: 50 },
      { x: 0, y: 50 },
    ];
    straightRectangle(upright).forEach((p, i) =>
      expect([p.x, p.y]).toEqual([expect.closeTo(upright[i]!.x, 9), expect.closeTo(upright[i]!.y, 9)]),
    );
  });
});
