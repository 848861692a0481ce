import fc from 'fast-check';
import { ALL_STRAIGHT } from '../geometry/bentOutline';
import { distance, type Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { fitSheet } from './fitSheet';
import { flatPose, turnedSheet } from './flatPose';
import { applyHomography, homographyBetween } from '../geometry/homography';
import { wholePicture } from '../geometry/quad';
import { PARAMETER, seenOnSheet, sheetOf, type Sheet } from './sheetModel';

const corners: Quad = [
  { x: 210, y: 180 },
  { x: 1270, y: 240 },
  { x: 1330, y: 1790 },
  { x: 150, y: 1720 },
];
const shot = { photoWidth: 1500, photoHeight: 2000, focalRatio: 0.72 };

/** A sheet seen from straight above and from so far away that a photo is a plan of it: lengths on it can be read off. */
const planOf = (ruling: number, convergence: number, slopes: readonly number[]): Float64Array => {
  const p = new Float64Array(PARAMETER.slopes + slopes.length);
  p[PARAMETER.position + 2] = 1e6;
  p[PARAMETER.logFocal] = Math.log(1e6);
  p[PARAMETER.logAspect] = Math.log(0.7);
  p[PARAMETER.ruling] = ruling;
  p[PARAMETER.convergence] = convergence;
  p.set(slopes, PARAMETER.slopes);
  return p;
};

/** A place of the sheet in space: seen from above, from the side and from below. */
function inSpace(p: Float64Array, u: number, v: number): [number, number, number] {
  const above = seenOnSheet(sheetOf(p), u, v);
  const side = seenOnSheet(sheetOf(turnedAbout(p)), u, v);
  return [above.x, above.y, side.x];
}

/** The same sheet turned a quarter about the photo's upright axis. */
function turnedAbout(p: Float64Array): Float64Array {
  const turned = p.slice();
  turned.set([0, Math.PI / 2, 0]);
  return turned;
}

describe('the model of a sheet', () => {
  it('keeps lengths along the paper, however it bends', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: -0.9, max: 0.9, noNaN: true }),
        fc.array(fc.double({ min: -0.3, max: 0.3, noNaN: true }), { minLength: 3, maxLength: 3 }),
        fc.double({ min: 0.05, max: 0.9, noNaN: true }),
        fc.double({ min: 0.05, max: 0.9, noNaN: true }),
        (ruling, convergence, slopes, u, v) => {
          const p = planOf(ruling, convergence, slopes);
          const from = inSpace(p, u, v);
          for (const [du, dv] of [
            [0.04, 0],
            [0, 0.04],
            [0.03, 0.03],
          ] as const) {
            const to = inSpace(p, u + du, v + dv);
            const length = Math.hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]);
            expect(length / Math.hypot(du * 0.7, dv)).toBeGreaterThan(0.985);
            expect(length / Math.hypot(du * 0.7, dv)).toBeLessThan(1.015);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is the homography of its corners where it lies flat', () => {
    const first = sheetOf(flatPose(corners, shot, 5));
    const onPhoto = (sheet: Sheet, u: number, v: number): Point => {
      const { x, y } = seenOnSheet(sheet, u, v);
      return { x: x * 2000 + 750, y: y * 2000 + 1000 };
    };
    const rectangle: Quad = [onPhoto(first, 0, 0), onPhoto(first, 1, 0), onPhoto(first, 1, 1), onPhoto(first, 0, 1)];
    const sheet = sheetOf(flatPose(rectangle, shot, 5));
    const toPhoto = homographyBetween(wholePicture(1, 1), rectangle);
    for (const u of [0, 0.3, 0.7, 1])
      for (const v of [0, 0.4, 1]) {
        expect(distance(onPhoto(sheet, u, v), applyHomography(toPhoto, { x: u, y: v }))).toBeLessThan(2);
      }
  });

  it('turns about an axis of its own', () => {
    const flat = flatPose(corners, shot, 5);
    const turned = turnedSheet(flat, [0, 0, 0.1]);
    const [middle, same] = [flat, turned].map((p) => seenOnSheet(sheetOf(p), 0.5, 0.5));
    expect(distance(middle!, same!)).toBeLessThan(1e-6);
    const back = turnedSheet(turned, [0, 0, -0.1]);
    for (let i = 0; i < 3; i++) expect(back[i]).toBeCloseTo(flat[i]!, 9);
  });

  it('is not asked where nothing is bent and no line stands on the page', () => {
    expect(fitSheet({ corners, bends: ALL_STRAIGHT, ...shot })).toBeNull();
  });
});
