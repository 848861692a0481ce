import { pageJaccard } from '../geometry/jaccard';
import type { Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { completeOutline } from './completeOutline';

const WIDTH = 1500;
const HEIGHT = 2000;

/** An A4 sheet seen by a usual camera, moved so that its top is out of the picture. */
function sheetAt(tilt: number, up: number): Quad {
  const f = 0.74 * HEIGHT;
  const project = (x: number, y: number): Point => {
    const z = 1.7 + y * Math.sin(tilt);
    return { x: WIDTH / 2 + (f * x) / z, y: HEIGHT / 2 + (f * (y * Math.cos(tilt) - up)) / z };
  };
  const w = 0.5 / Math.SQRT2;
  return [project(-w, -0.5), project(w, -0.5), project(w, 0.5), project(-w, 0.5)];
}

/** The part of it below the picture's upper border. */
function cutAtTop([tl, tr, br, bl]: Quad): Quad {
  const meet = (above: Point, below: Point): Point => ({
    x: above.x + ((below.x - above.x) * (0 - above.y)) / (below.y - above.y),
    y: 0,
  });
  return [meet(tl, bl), meet(tr, br), br, bl];
}

describe('completeOutline', () => {
  it.each([0, 0.2, -0.3])('finds the hidden side of a sheet tilted by %d rad', (tilt) => {
    const whole = sheetAt(tilt, 0.85);
    expect(whole[0].y).toBeLessThan(-50);
    const visible = cutAtTop(whole);
    const completed = completeOutline(visible, 0, WIDTH, HEIGHT)!;
    expect(pageJaccard(completed, whole, 1 / Math.SQRT2)).toBeGreaterThan(0.97);
    expect(pageJaccard(completed, whole, 1 / Math.SQRT2)).toBeGreaterThan(
      pageJaccard(visible, whole, 1 / Math.SQRT2) + 0.03,
    );
  });

  it.each([0.003, -0.004])('does not lengthen a sheet that is all there, give or take %d of its height', (more) => {
    const height = 1900 * (1 + more);
    const all: Quad = [
      { x: 100, y: 0 },
      { x: 100 + 1900 / Math.SQRT2, y: 0 },
      { x: 100 + 1900 / Math.SQRT2, y: height },
      { x: 100, y: height },
    ];
    expect(completeOutline(all, 0, WIDTH, HEIGHT)).toBeNull();
  });

  it('does not guess when no standard sheet could be hidden there', () => {
    const long: Quad = [
      { x: 600, y: 0 },
      { x: 900, y: 0 },
      { x: 900, y: 1900 },
      { x: 600, y: 1900 },
    ];
    expect(completeOutline(long, 0, WIDTH, HEIGHT)).toBeNull();
  });

  it.each([1935, 1940, 1960])('does not guess where the hidden side would be seen nearly along it (%i)', (low) => {
    const left: Quad = [
      { x: 0, y: 613 },
      { x: 1029, y: 678 },
      { x: 796, y: 2057 },
      { x: 0, y: low },
    ];
    // one of its ends would lie thousands of pixels out of the picture
    expect(completeOutline(left, 3, WIDTH, HEIGHT)).toBeNull();
  });
});
