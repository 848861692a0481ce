import { createLens } from '../../demo/camera/lens';
import { createScene, type ShapeKind } from '../../demo/camera/scene';
import { createSheetSurface } from '../../demo/camera/sheetSurface';
import { ALL_STRAIGHT, type Bend, type Bends } from '../geometry/bentOutline';
import type { Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { fitSheet } from './fitSheet';

const WIDTH_MM = 210;
const HEIGHT_MM = 297;

/** A simulated camera and sheet, and the outline as it would be found without error. */
function seen(seed: number, kind: ShapeKind): { at: (u: number, v: number) => Point; corners: Quad; bends: Bends; photoWidth: number; photoHeight: number } {
  const scene = createScene(seed, { shape: { kind, amount: 0.8 }, page: { kind: 'notes', size: 'a4' }, camera: { radial: 0 }, offCentre: { x: 0, y: 0 } });
  const lens = createLens(scene, WIDTH_MM, HEIGHT_MM);
  const surface = createSheetSurface(scene, WIDTH_MM, HEIGHT_MM);
  const at = (u: number, v: number): Point => lens.project(surface(u * WIDTH_MM, v * HEIGHT_MM));
  const corners: Quad = [at(0, 0), at(1, 0), at(1, 1), at(0, 1)];
  const sides = [(t: number) => at(t, 0), (t: number) => at(1, t), (t: number) => at(1 - t, 1), (t: number) => at(0, 1 - t)];
  const bends = sides.map((side, s) => bendOf(side, corners[s]!, corners[(s + 1) % 4]!)) as unknown as Bends;
  return { at, corners, bends, photoWidth: scene.camera.widthPx, photoHeight: scene.camera.heightPx };
}

function bendOf(side: (t: number) => Point, a: Point, b: Point): Bend {
  const squared = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
  const along = (p: Point): number => ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / squared;
  return [0.25, 0.5, 0.75].map((share) => {
    let low = 0;
    let high = 1;
    for (let i = 0; i < 40; i++) {
      if (along(side((low + high) / 2)) < share) low = (low + high) / 2;
      else high = (low + high) / 2;
    }
    const p = side(low);
    return ((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / squared;
  }) as unknown as Bend;
}

describe('fitSheet', () => {
  it.each([
    ['bowed', 0.0035],
    ['curl', 0.0035],
    ['crease', 0.006],
  ] as const)('lays a %s sheet where it is, from its outline alone, and knows its proportions', (kind, most) => {
    const errors: number[] = [];
    const ratios: number[] = [];
    for (let seed = 7300; seed < 7312; seed++) {
      const { at, ...evidence } = seen(seed, kind);
      const sheet = fitSheet(evidence);
      if (sheet === null) continue; // so gentle that it is flat
      const size = Math.hypot(evidence.corners[2].x - evidence.corners[0].x, evidence.corners[2].y - evidence.corners[0].y);
      for (const u of [0.1, 0.35, 0.5, 0.65, 0.9]) {
        for (const v of [0.1, 0.5, 0.9]) {
          const p = at(u, v);
          const q = sheet.toPhoto(u, v);
          errors.push(Math.hypot(p.x - q.x, p.y - q.y) / size);
        }
      }
      ratios.push(Math.abs(sheet.aspect / (WIDTH_MM / HEIGHT_MM) - 1));
    }
    expect(ratios.length).toBeGreaterThan(7);
    expect(errors.reduce((p, q) => p + q, 0) / errors.length).toBeLessThan(most);
    expect(ratios.sort((p, q) => p - q)[ratios.length >> 1]).toBeLessThan(0.015);
  });

  it('says nothing of a flat sheet: a homography is enough', () => {
    expect(fitSheet({ ...seen(7320, 'flat'), bends: ALL_STRAIGHT })).toBeNull();
  });
});
