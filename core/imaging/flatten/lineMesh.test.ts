import type { LocatedLine } from './lineEvidence';
import { lineMesh } from './lineMesh';

/** Twelve lines across a page, each off its place by `off`, at seven places along it. */
const lines = (off: (u: number, v: number) => number, count = 12): LocatedLine[] =>
  Array.from({ length: count }, (_, k) => {
    const v = (k + 1) / (count + 1);
    const places = Array.from({ length: 7 }, (__, i) => (i + 0.5) / 7);
    return {
      across: true,
      seen: places.map(() => ({ x: 0, y: 0 })),
      noise: 0.0004,
      at: Float64Array.from(places.flatMap((u) => [u, v + off(u, v)])),
      rank: null,
      step: new Float64Array(14),
    };
  });
/** A bulge of 1.8 mm of A4 in the middle of the page. */
const bulge = (u: number, v: number): number => 0.006 * Math.sin(Math.PI * v) * Math.cos(2 * Math.PI * u);

describe('the mesh on top of a sheet', () => {
  it('moves places to where a crumple has the lines, and none at the sides along them', () => {
    const move = lineMesh(lines(bulge), 0.7)!;
    for (const u of [0.2, 0.5, 0.8])
      for (const v of [0.3, 0.5, 0.7]) {
        const { x, y } = move(u, v);
        expect(x).toBe(u);
        expect(Math.abs(y - v - bulge(u, v))).toBeLessThan(0.002);
      }
    for (const u of [0, 0.5, 1]) {
      expect(move(u, 0).y).toBeCloseTo(0, 5);
      expect(move(u, 1).y).toBeCloseTo(1, 5);
    }
  });

  it('is none where lines are straight, too few, or each bends its own way', () => {
    expect(
      lineMesh(
        lines(() => 0),
        0.7,
      ),
    ).toBeNull();
    expect(lineMesh(lines(bulge, 4), 0.7)).toBeNull();
    let turn = 1;
    expect(
      lineMesh(
        lines(() => (turn = -turn) * 0.003),
        0.7,
      ),
    ).toBeNull();
  });
});
