import fc from 'fast-check';
import { anyQuad } from './arbitraries.test';
import { fitHomography } from './fitHomography';
import { applyHomography, homographyBetween } from './homography';
import { distance, type Point } from './point';

const GRID: readonly Point[] = Array.from({ length: 25 }, (_, k) => ({
  x: 100 + 150 * (k % 5),
  y: 80 + 170 * Math.floor(k / 5),
}));

describe('fitHomography', () => {
  it('finds the homography that moved the points, whichever it was', () => {
    fc.assert(
      fc.property(anyQuad(), anyQuad(), (outline, page) => {
        const truth = homographyBetween(outline, page);
        // places within the outline, so that none lies beyond its horizon
        const from = GRID.map(({ x, y }) => ({
          x: outline[0].x + ((outline[1].x - outline[0].x) * x) / 900,
          y: outline[0].y + ((outline[3].y - outline[0].y) * y) / 900,
        }));
        const to = from.map((p) => applyHomography(truth, p));
        const size = Math.max(...from.flatMap((p) => [p.x, p.y]), ...to.flatMap((p) => [p.x, p.y]));
        const found = fitHomography(
          from,
          to,
          from.map(() => 1),
          size,
        )!;
        from.forEach((p, i) => expect(distance(applyHomography(found, p), to[i]!)).toBeLessThan(1e-3 * size));
      }),
      { numRuns: 60 },
    );
  });

  it('leaves out pairs without weight', () => {
    const to = GRID.map((p, i) => (i === 7 ? { x: 5000, y: -900 } : { x: p.x + 3, y: p.y - 2 }));
    const found = fitHomography(
      GRID,
      to,
      GRID.map((_, i) => (i === 7 ? 0 : 1)),
      900,
    )!;
    expect(distance(applyHomography(found, GRID[7]!), { x: GRID[7]!.x + 3, y: GRID[7]!.y - 2 })).toBeLessThan(1e-6);
  });

  it('lies between what the points say, nearer to those with more weight', () => {
    const twice = [...GRID, ...GRID];
    const to = [...GRID.map((p) => ({ x: p.x + 4, y: p.y })), ...GRID.map((p) => ({ x: p.x, y: p.y }))];
    const shiftWith = (weight: number): number =>
      applyHomography(
        fitHomography(
          twice,
          to,
          twice.map((_, i) => (i < 25 ? weight : 1)),
          900,
        )!,
        { x: 400, y: 400 },
      ).x - 400;
    expect(shiftWith(1)).toBeCloseTo(2, 1);
    expect(shiftWith(3)).toBeGreaterThan(shiftWith(1) + 0.5);
  });

  it('says nothing where the points do not determine it', () => {
    expect(fitHomography(GRID.slice(0, 3), GRID.slice(0, 3), [1, 1, 1], 900)).toBeNull();
    const line = GRID.slice(0, 5);
    expect(
      fitHomography(
        line,
        line,
        line.map(() => 1),
        900,
      ),
    ).toBeNull();
  });
});
