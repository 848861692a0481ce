import fc from 'fast-check';
import { anyQuad } from './arbitraries.test';
import { jaccardIndex, pageJaccard } from './jaccard';
import { mapQuad, wholePicture } from './quad';

describe('Jaccard index', () => {
  it('is 1 for the same outline, whatever the perspective', () => {
    fc.assert(fc.property(anyQuad(), (quad) => expect(pageJaccard(quad, quad, 0.7)).toBeCloseTo(1, 6)));
  });

  it('is the share of overlap for shifted rectangles', () => {
    const square = wholePicture(10, 10);
    const shifted = mapQuad(square, (p) => ({ x: p.x + 5, y: p.y }));
    expect(jaccardIndex(shifted, square)).toBeCloseTo(1 / 3, 9);
    expect(
      jaccardIndex(
        mapQuad(square, (p) => ({ x: p.x + 50, y: p.y })),
        square,
      ),
    ).toBe(0);
  });

  it('is measured on the paper: the far side of a tilted page counts as much as the near side', () => {
    const truth = [
      { x: 400, y: 100 },
      { x: 600, y: 100 },
      { x: 1000, y: 900 },
      { x: 0, y: 900 },
    ] as const;
    const cutFar = [{ x: 350, y: 200 }, { x: 650, y: 200 }, truth[2], truth[3]] as const;
    const onPaper = pageJaccard(cutFar, truth, 0.7);
    expect(onPaper).toBeLessThan(jaccardIndex(cutFar, truth) - 0.1);
  });
});
