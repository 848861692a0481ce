import { createLens } from '../../../demo/camera/lens';
import fc from 'fast-check';
import { createScene, type Scene, type ShapeKind } from '../../../demo/camera/scene';
import { createSheetSurface, type SheetSurface } from '../../../demo/camera/sheetSurface';
import { createRandom } from '../../../demo/random';
import { ALL_STRAIGHT, distanceToBentSide, type Bend, type Bends } from '../geometry/bentOutline';
import { applyHomography, homographyBetween } from '../geometry/homography';
import { distance, type Point } from '../geometry/point';
import { wholePicture, type Quad } from '../geometry/quad';
import { fitSheet } from './fitSheet';
import type { FittedSheet } from './fittedSheet';

const WIDTH_MM = 210;
const HEIGHT_MM = 297;

/** A sheet before a camera, and the outline as it would be found without error. */
interface Seen {
  readonly at: (u: number, v: number) => Point;
  readonly corners: Quad;
  readonly bends: Bends;
  readonly photoWidth: number;
  readonly photoHeight: number;
}

function seen(seed: number, kind: ShapeKind): Seen {
  const scene = createScene(seed, {
    shape: { kind, amount: 0.8 },
    page: { kind: 'notes', size: 'a4' },
    camera: { radial: 0 },
    offCentre: { x: 0, y: 0 },
  });
  return outlined(scene, createSheetSurface(scene, WIDTH_MM, HEIGHT_MM));
}

/** A page on the table whose corner lifts off along oblique rulings, as cards and leafed-through paper do. */
function withLiftedCorner(seed: number): Seen {
  const scene = createScene(seed, {
    shape: { kind: 'flat' },
    page: { kind: 'notes', size: 'a4' },
    camera: { radial: 0, tiltRad: 0.25 },
    headingRad: 0.1,
    offCentre: { x: 0, y: 0 },
  });
  const flat = createSheetSurface(scene, WIDTH_MM, HEIGHT_MM);
  const liftMm = 14 + (seed % 5) * 5;
  return outlined(scene, (u, v) => {
    const [x, y, z] = flat(u, v);
    const beyond = Math.max(0, u / WIDTH_MM + v / HEIGHT_MM - 1.15) / 0.85;
    return [x, y, z + liftMm * beyond ** 2];
  });
}

function outlined(scene: Scene, surface: SheetSurface): Seen {
  const lens = createLens(scene, WIDTH_MM, HEIGHT_MM);
  const at = (u: number, v: number): Point => lens.project(surface(u * WIDTH_MM, v * HEIGHT_MM));
  const corners: Quad = [at(0, 0), at(1, 0), at(1, 1), at(0, 1)];
  const sides = [
    (t: number) => at(t, 0),
    (t: number) => at(1, t),
    (t: number) => at(1 - t, 1),
    (t: number) => at(0, 1 - t),
  ];
  const bends = sides.map((side, s) => bendOf(side, corners[s]!, corners[(s + 1) % 4]!)) as unknown as Bends;
  return { at, corners, bends, photoWidth: scene.camera.widthPx, photoHeight: scene.camera.heightPx };
}

/** How far places lie from where a sheet says, as shares of the page's diagonal. */
function errorsOf({ at, corners }: Seen, sheet: FittedSheet): number[] {
  const size = distance(corners[0], corners[2]);
  return [0.1, 0.35, 0.5, 0.65, 0.9].flatMap((u) =>
    [0.1, 0.5, 0.9].map((v) => distance(at(u, v), sheet.toPhoto(u, v)) / size),
  );
}

const mean = (values: readonly number[]): number => values.reduce((p, q) => p + q, 0) / values.length;

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
  });
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
      const sight = seen(seed, kind);
      const sheet = fitSheet(sight);
      if (sheet === null) continue; // so gentle that it is flat
      errors.push(...errorsOf(sight, sheet));
      ratios.push(Math.abs(sheet.aspect / (WIDTH_MM / HEIGHT_MM) - 1));
    }
    expect(ratios.length).toBeGreaterThan(7);
    expect(mean(errors)).toBeLessThan(most);
    expect(ratios.sort((p, q) => p - q)[ratios.length >> 1]).toBeLessThan(0.015);
  });

  it('lays a bowed sheet flat from an outline set by hand: corners off by a pixel or so, bends by their middle alone', () => {
    const scene = createScene(9501, {
      shape: { kind: 'bowed', amount: 0.9 },
      page: { kind: 'notes', size: 'a4' },
      headingRad: 0.02,
      offCentre: { x: 0, y: 0 },
      camera: {
        widthPx: 1200,
        heightPx: 1600,
        radial: 0,
        tiltRad: 0.35,
        azimuthRad: Math.PI / 2,
        fill: 0.8,
        focalShare: 0.74,
      },
    });
    const sight = outlined(scene, createSheetSurface(scene, WIDTH_MM, HEIGHT_MM));
    const random = createRandom(3);
    const errors = Array.from({ length: 8 }, () => {
      const corners = sight.corners.map(({ x, y }) => ({
        x: x + random.gauss(),
        y: y + random.gauss(),
      })) as unknown as Quad;
      const bends = sight.bends.map((bend, s): Bend =>
        s % 2 === 0 ? [0.75 * bend[1]!, bend[1]!, 0.75 * bend[1]!] : [0, 0, 0],
      ) as unknown as Bends;
      return mean(errorsOf(sight, fitSheet({ ...sight, corners, bends })!));
    });
    expect(mean(errors)).toBeLessThan(0.003);
    expect(Math.max(...errors)).toBeLessThan(0.006);
  });

  it('lays a page whose corner lifts off nearer to where it is than its corners alone would', () => {
    const [fitted, plain]: [number[], number[]] = [[], []];
    for (let seed = 7330; seed < 7345; seed++) {
      const sight = withLiftedCorner(seed);
      const sheet = fitSheet(sight);
      const flat = homographyBetween(wholePicture(1, 1), sight.corners);
      plain.push(mean(errorsOf(sight, { aspect: 1, toPhoto: (u, v) => applyHomography(flat, { x: u, y: v }) })));
      fitted.push(sheet === null ? plain.at(-1)! : mean(errorsOf(sight, sheet)));
    }
    expect(mean(fitted)).toBeLessThan(0.7 * mean(plain));
    expect(Math.max(...fitted)).toBeLessThan(0.03);
  });

  it('stays near the sides it was given, whatever they are', () => {
    let fitted = 0;
    const bend = fc.double({ min: -0.05, max: 0.05, noNaN: true }).map((most): Bend => [0.7 * most, most, 0.8 * most]);
    fc.assert(
      fc.property(fc.tuple(bend, bend, bend, bend), (bends) => {
        const corners: Quad = [
          { x: 310, y: 260 },
          { x: 1240, y: 210 },
          { x: 1330, y: 1620 },
          { x: 220, y: 1570 },
        ];
        const sheet = fitSheet({ corners, bends, photoWidth: 1500, photoHeight: 2000 });
        if (sheet === null) return;
        fitted++;
        for (let i = 0; i <= 10; i++) {
          const t = i / 10;
          const places = [
            [t, 0],
            [1, t],
            [t, 1],
            [0, t],
          ] as const;
          places.forEach(([u, v], s) =>
            expect(
              Math.abs(distanceToBentSide(sheet.toPhoto(u, v), corners[s]!, corners[(s + 1) % 4]!, bends[s]!)),
            ).toBeLessThan(30),
          );
        }
      }),
      { numRuns: 25, seed: 4 },
    );
    expect(fitted).toBeGreaterThan(8);
  });

  it('says nothing of a flat sheet: a homography is enough', () => {
    expect(fitSheet({ ...seen(7320, 'flat'), bends: ALL_STRAIGHT })).toBeNull();
  });
});
