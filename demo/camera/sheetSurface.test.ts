import fc from 'fast-check';
import { createLens } from './lens';
import { createScene, SHAPES, type ShapeKind } from './scene';
import { createSheetSurface } from './sheetSurface';

const WIDTH_MM = 210;
const HEIGHT_MM = 297;
const lying = (kind: ShapeKind, amount = 0.8, headingRad = 0.3) =>
  createSheetSurface(createScene(7, { shape: { kind, amount }, headingRad }), WIDTH_MM, HEIGHT_MM);
const away = (a: readonly number[], b: readonly number[]): number =>
  Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!);

describe('a sheet on a desk', () => {
  it.each(SHAPES)('that lies %s is not stretched along its curve', (kind) => {
    const surface = lying(kind);
    const steps = 400;
    // a crease bends along the page's height, all else across it
    const at = (s: number) => (kind === 'crease' ? surface(WIDTH_MM / 2, s * HEIGHT_MM) : surface(s * WIDTH_MM, 0));
    let length = 0;
    for (let k = 0; k < steps; k++) length += away(at(k / steps), at((k + 1) / steps));
    expect(length).toBeCloseTo(kind === 'crease' ? HEIGHT_MM : WIDTH_MM, 0);
  });

  it('that is flat keeps every distance, however it is turned', () => {
    const place = fc.tuple(
      fc.double({ min: 0, max: WIDTH_MM, noNaN: true }),
      fc.double({ min: 0, max: HEIGHT_MM, noNaN: true }),
    );
    fc.assert(
      fc.property(place, place, fc.double({ min: -3, max: 3, noNaN: true }), ([u, v], [s, t], heading) => {
        const surface = lying('flat', 0, heading);
        expect(Math.abs(away(surface(u, v), surface(s, t)) - Math.hypot(u - s, v - t))).toBeLessThan(1e-6);
      }),
      { numRuns: 40 },
    );
  });

  it('lies on or above the desk, and higher the more it is bowed', () => {
    const top = (amount: number): number =>
      Math.max(...Array.from({ length: 41 }, (_, k) => lying('bowed', amount)((k / 40) * WIDTH_MM, 0)[2]));
    expect(top(0.9)).toBeGreaterThan(top(0.4) + 3);
    for (const kind of SHAPES)
      for (let k = 0; k <= 20; k++) expect(lying(kind)((k / 20) * WIDTH_MM, HEIGHT_MM / 2)[2]).toBeGreaterThan(-1e-6);
  });
});

describe('the camera over it', () => {
  it('sees the page’s middle near the picture’s middle, and all of it where it is to fill the picture less than wholly', () => {
    for (let seed = 1; seed < 30; seed++) {
      const scene = createScene(seed, { offCentre: { x: 0, y: 0 }, shape: { kind: 'flat' }, camera: { fill: 0.7 } });
      const { widthPx, heightPx } = scene.camera;
      const lens = createLens(scene, WIDTH_MM, HEIGHT_MM);
      const surface = createSheetSurface(scene, WIDTH_MM, HEIGHT_MM);
      const middle = lens.project(surface(WIDTH_MM / 2, HEIGHT_MM / 2));
      expect(Math.hypot(middle.x - widthPx / 2, middle.y - heightPx / 2)).toBeLessThan(
        0.02 * Math.max(widthPx, heightPx),
      );
      for (const [u, v] of [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const) {
        const corner = lens.project(surface(u * WIDTH_MM, v * HEIGHT_MM));
        expect(corner.x > 0 && corner.y > 0 && corner.x < widthPx && corner.y < heightPx).toBe(true);
      }
    }
  });

  it('sees what is twice as far half as large', () => {
    const scene = createScene(3, { camera: { tiltRad: 0, radial: 0 } });
    const lens = createLens(scene, WIDTH_MM, HEIGHT_MM);
    const depth = lens.position[2];
    const span = (z: number): number => lens.project([50, 0, z]).x - lens.project([-50, 0, z]).x;
    expect(Math.abs(span(0) / span(depth / 2) - 0.5)).toBeLessThan(0.02);
  });
});
