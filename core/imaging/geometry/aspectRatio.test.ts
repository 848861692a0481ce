import fc from 'fast-check';
import { recoverPose, recoverProportions, recoverTilt, TYPICAL_FOCAL_RATIO } from './aspectRatio';
import type { Quad } from './quad';

/** Projects a w × h sheet through a pinhole camera tilted about both axes. */
function shoot(aspect: number, focalRatio: number, tiltX: number, tiltY: number, turn: number): Quad {
  const width = 3000;
  const f = focalRatio * 4000;
  const project = (x: number, y: number): { x: number; y: number } => {
    const rx = x * Math.cos(turn) - y * Math.sin(turn);
    const ry = x * Math.sin(turn) + y * Math.cos(turn);
    const y1 = ry * Math.cos(tiltX);
    const z1 = ry * Math.sin(tiltX);
    const x2 = rx * Math.cos(tiltY) + z1 * Math.sin(tiltY);
    const z2 = -rx * Math.sin(tiltY) + z1 * Math.cos(tiltY) + 3.2;
    return { x: width / 2 + (f * x2) / z2, y: 2000 + (f * y1) / z2 };
  };
  const w = aspect;
  return [project(-w / 2, -0.5), project(w / 2, -0.5), project(w / 2, 0.5), project(-w / 2, 0.5)];
}

describe('recoverProportions', () => {
  const angle = fc.double({ min: -0.6, max: 0.6, noNaN: true });

  it('finds the aspect to half a percent when the focal length is a usual one', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 2, noNaN: true }), angle, angle, angle, (aspect, tiltX, tiltY, turn) => {
        const quad = shoot(aspect, TYPICAL_FOCAL_RATIO, tiltX, tiltY, turn);
        expect(Math.abs(recoverProportions(quad, 3000, 4000).aspect / aspect - 1)).toBeLessThan(0.005);
      }),
    );
  });

  it('finds the aspect to half a percent with any lens that the file tells of', () => {
    const lens = fc.double({ min: 0.5, max: 2.2, noNaN: true });
    fc.assert(
      fc.property(fc.double({ min: 0.5, max: 2, noNaN: true }), lens, angle, angle, (aspect, focal, tiltX, tiltY) => {
        const quad = shoot(aspect, focal, tiltX, tiltY, 0.2);
        expect(Math.abs(recoverProportions(quad, 3000, 4000, focal).aspect / aspect - 1)).toBeLessThan(0.005);
      }),
    );
  });

  it('finds an unusual focal length from strong perspective about both axes', () => {
    const quad = shoot(0.707, 1.05, 0.5, 0.5, 0.1);
    const { aspect, focalRatio } = recoverProportions(quad, 3000, 4000);
    expect(focalRatio).toBeCloseTo(1.05, 1);
    expect(Math.abs(aspect / 0.707 - 1)).toBeLessThan(0.01);
  });

  it('stays sensible on a photo taken straight from above, where the focal length cannot be told', () => {
    const quad: Quad = [
      { x: 500, y: 600 },
      { x: 2500, y: 601 },
      { x: 2501, y: 3430 },
      { x: 499, y: 3429 },
    ];
    expect(recoverProportions(quad, 3000, 4000).aspect).toBeCloseTo(2000 / 2829, 2);
  });
});

describe('recoverPose', () => {
  it('puts the page before the camera where it was, and its normal at right angles to it', () => {
    const quad = shoot(0.707, 0.74, 0.4, -0.2, 0.3);
    const { aspect, focalRatio, corner, across, down, normal } = recoverPose(quad, 3000, 4000);
    const f = focalRatio * 4000;
    [
      [0, 0],
      [aspect, 0],
      [aspect, 1],
      [0, 1],
    ].forEach(([x, y], i) => {
      const [px, py, pz] = [0, 1, 2].map((k) => corner[k]! + x! * across[k]! + y! * down[k]!) as [
        number,
        number,
        number,
      ];
      expect(pz).toBeGreaterThan(0);
      expect(1500 + (f * px) / pz).toBeCloseTo(quad[i]!.x, 3);
      expect(2000 + (f * py) / pz).toBeCloseTo(quad[i]!.y, 3);
    });
    const along = (v: readonly number[]): number =>
      v.reduce((sum, value, k) => sum + value * normal[k]!, 0) / Math.hypot(...v) / Math.hypot(...normal);
    expect(Math.abs(along(across))).toBeLessThan(1e-9);
    expect(Math.abs(along(down))).toBeLessThan(1e-9);
    expect(along(corner)).toBeLessThan(0);
  });

  it('tells the tilt', () => {
    expect(recoverTilt(shoot(0.707, 0.74, 0, 0, 0.3), 3000, 4000)).toBeLessThan(1);
    expect(Math.abs(recoverTilt(shoot(0.707, 0.74, 0.4, 0, 0), 3000, 4000) - (0.4 * 180) / Math.PI)).toBeLessThan(1.5);
  });
});
