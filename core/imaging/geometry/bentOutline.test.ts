import fc from 'fast-check';
import {
  ALL_STRAIGHT,
  bendAt,
  type Bends,
  bowedBy,
  distanceToBentSide,
  mostBent,
  pointOnBentSide,
  quartersOf,
  ringOf,
  SIDE_DETAIL,
  turnBends,
} from './bentOutline';
import { turnQuad, type Quad } from './quad';

const quad: Quad = [
  { x: 10, y: 20 },
  { x: 210, y: 30 },
  { x: 220, y: 330 },
  { x: 0, y: 310 },
];
const share = fc.double({ min: -0.2, max: 0.2, noNaN: true });
const bend = fc.tuple(share, share, share);

describe('bent sides', () => {
  it('pass through their ends and the three places that name them', () =>
    fc.assert(
      fc.property(bend, (b) => {
        expect([0, 0.25, 0.5, 0.75, 1].map((t) => bendAt(b, t))).toEqual(
          [0, b[0], b[1], b[2], 0].map((v) => expect.closeTo(v, 9) as number),
        );
      }),
    ));

  it('that were traced pass through all their places, and run on straight beyond their ends', () =>
    fc.assert(
      fc.property(fc.array(share, { minLength: SIDE_DETAIL, maxLength: SIDE_DETAIL }), (b) => {
        const pieces = SIDE_DETAIL + 1;
        [0, ...b, 0].forEach((offset, k) => expect(bendAt(b, k / pieces)).toBeCloseTo(offset, 9));
        expect(bendAt(b, -0.5 / pieces)).toBeCloseTo(-b[0]! / 2, 9);
        expect(bendAt(b, 1 + 0.5 / pieces)).toBeCloseTo(-b.at(-1)! / 2, 9);
      }),
    ));

  it('can be told by their quarters, and bowed further, however finely they are known', () => {
    const fine = Array.from({ length: SIDE_DETAIL }, (_, k) => 0.1 * Math.sin((4 * Math.PI * (k + 1)) / 24));
    expect(quartersOf(fine)).toEqual([0, 0, 0].map((v) => expect.closeTo(v, 9) as number));
    for (const side of [fine, quartersOf(fine)])
      for (const t of [0.25, 0.5, 0.75])
        expect(bendAt(bowedBy(side, 0.04), t)).toBeCloseTo(bendAt(side, t) + 0.16 * t * (1 - t), 9);
  });

  it('bulge away from the inside where the share is positive', () => {
    const top = pointOnBentSide(quad[0], quad[1], [0.08, 0.1, 0.08], 0.5);
    const bottom = pointOnBentSide(quad[2], quad[3], [0.08, 0.1, 0.08], 0.5);
    expect(top.y).toBeLessThan(25);
    expect(bottom.y).toBeGreaterThan(320);
  });

  it('are no distance from their own points, and the right one from others', () =>
    fc.assert(
      fc.property(bend, fc.double({ min: 0.05, max: 0.95, noNaN: true }), (b, t) => {
        const p = pointOnBentSide(quad[0], quad[1], b, t);
        expect(Math.abs(distanceToBentSide(p, quad[0], quad[1], b))).toBeLessThan(1e-9);
        expect(
          distanceToBentSide({ x: p.x, y: p.y - 5 }, quad[0], quad[1], ALL_STRAIGHT[0]) -
            distanceToBentSide(p, quad[0], quad[1], ALL_STRAIGHT[0]),
        ).toBeCloseTo(5 * Math.cos(Math.atan2(10, 200)), 6);
      }),
    ));

  it('stay the same outline when the page is turned', () => {
    const bends: Bends = [
      [0.01, 0.02, 0.03],
      [0, 0.05, 0],
      [0.04, 0.04, 0.04],
      [-0.01, -0.02, -0.01],
    ];
    const ring = ringOf(quad, bends, 8);
    const turned = ringOf(turnQuad(quad, 1), turnBends(bends, 1), 8);
    expect(ring).toHaveLength(32);
    expect([...turned.slice(8), ...turned.slice(0, 8)]).toEqual(ring);
    expect(mostBent(bends)).toBe(0.05);
    expect(turnBends(turnBends(bends, 3), 1)).toEqual(bends);
  });
});
