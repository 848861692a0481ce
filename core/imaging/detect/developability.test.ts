import fc from 'fast-check';
import { ALL_STRAIGHT, STRAIGHT, turnBends, type Bend, type Bends } from '../geometry/bentOutline';
import type { Point } from '../geometry/point';
import { turnQuad, type Quad } from '../geometry/quad';
import { developabilityResidual } from './developability';

const WIDTH = 3000;
const HEIGHT = 4000;

interface Shot {
  readonly tiltX: number;
  readonly tiltY: number;
  /** How high the sheet is lifted at a place across it and down it, both 0 to 1, in page heights. */
  readonly lift: (u: number, v: number) => number;
}

/** The outline of an A sheet before a phone's camera. */
function shoot({ tiltX, tiltY, lift }: Shot): { quad: Quad; bends: Bends } {
  const see = (u: number, v: number): Point => {
    const [x, y, z] = [(u - 0.5) / Math.SQRT2, v - 0.5, -lift(u, v)];
    const y1 = y * Math.cos(tiltX) - z * Math.sin(tiltX);
    const z1 = y * Math.sin(tiltX) + z * Math.cos(tiltX);
    const x2 = x * Math.cos(tiltY) + z1 * Math.sin(tiltY);
    const depth = -x * Math.sin(tiltY) + z1 * Math.cos(tiltY) + 1.2;
    const f = 0.74 * HEIGHT;
    return { x: WIDTH / 2 + (f * x2) / depth, y: HEIGHT / 2 + (f * y1) / depth };
  };
  const quad: Quad = [see(0, 0), see(1, 0), see(1, 1), see(0, 1)];
  const side = (s: number, t: number): Point => [see(t, 0), see(1, t), see(1 - t, 1), see(0, 1 - t)][s]!;
  const bends = [0, 1, 2, 3].map((s) => {
    const a = quad[s]!;
    const b = quad[(s + 1) % 4]!;
    const squared = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
    return [0.25, 0.5, 0.75].map((t) => {
      const p = side(s, t);
      return ((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / squared;
    });
  });
  return { quad, bends: bends as unknown as Bends };
}

const doubt = ({ quad, bends }: { quad: Quad; bends: Bends }): number =>
  developabilityResidual(quad, bends, WIDTH, HEIGHT);
const bow = (u: number): number => 0.1 * Math.sin(Math.PI * u);
const bowed = shoot({ tiltX: 0.3, tiltY: 0.1, lift: bow });

describe('sheetDoubt', () => {
  const tilt = fc.double({ min: -0.5, max: 0.5, noNaN: true });
  const amount = fc.double({ min: -1, max: 1, noNaN: true });
  const fade = fc.double({ min: 0, max: 1, noNaN: true });

  it('finds nothing wrong with a sheet that bows, along its whole length or less towards an end', () => {
    fc.assert(
      fc.property(tilt, tilt, amount, fade, (tiltX, tiltY, high, less) =>
        expect(doubt(shoot({ tiltX, tiltY, lift: (u, v) => high * bow(u) * (1 - less * v) }))).toBeLessThan(6),
      ),
    );
  });

  it('finds nothing wrong with one that curls up along a side', () => {
    fc.assert(
      fc.property(tilt, tilt, fade, (tiltX, tiltY, high) =>
        expect(doubt(shoot({ tiltX, tiltY, lift: (u) => 0.1 * high * (Math.exp(-4 * u) - (1 - u)) }))).toBeLessThan(6),
      ),
    );
  });

  it('does not depend on which corner comes first', () => {
    for (const turns of [1, 2, 3])
      expect(doubt({ quad: turnQuad(bowed.quad, turns), bends: turnBends(bowed.bends, turns) })).toBeCloseTo(
        doubt(bowed),
        6,
      );
  });

  it('doubts an outline whose opposite sides are lifted different ways', () => {
    const [top, , foot] = bowed.bends;
    expect(
      doubt({ quad: bowed.quad, bends: [top, STRAIGHT, foot.map((b) => -b) as unknown as Bend, STRAIGHT] }),
    ).toBeGreaterThan(15);
  });

  it('doubts one that bends both ways, or hooks at one end of one side alone', () => {
    expect(
      doubt({ quad: bowed.quad, bends: [[0.03, 0.04, 0.03], [0.02, 0.03, 0.02], STRAIGHT, STRAIGHT] }),
    ).toBeGreaterThan(15);
    expect(doubt({ quad: bowed.quad, bends: [[0.01, 0.06, 0.09], STRAIGHT, STRAIGHT, STRAIGHT] })).toBeGreaterThan(15);
    expect(doubt({ quad: bowed.quad, bends: ALL_STRAIGHT })).toBe(0);
  });
});
