import { itInWorkspace } from '../kernels/itInWorkspace';
import type { Quad } from '../geometry/quad';
import { isConvexQuad } from '../geometry/quad';
import { gradientField } from './edgePoints';
import { toColourPicture } from './colourPicture';
import { readLineProfile, type LineProfile } from './lineProfile';
import { borderLines, type Line } from './lineProposals';
import { enumerateQuads } from './quadCandidates';

const { it, ws } = itInWorkspace();

const WIDTH = 240;
const HEIGHT = 320;

/** Evidence of lines in a picture that is paper within and desk beyond, or of one that is all the same. */
function evidenceOf(lines: readonly Line[], paper: (x: number, y: number) => boolean): LineProfile[] {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT).map((_, i) =>
    paper(i % WIDTH, Math.floor(i / WIDTH)) ? 220 : 90,
  );
  const planes = toColourPicture({ width: WIDTH, height: HEIGHT, channels: 1, data }, ws());
  return lines.map((line) => readLineProfile(line, planes, gradientField(planes, ws()))!);
}

const upright = (rho: number): Line => ({ nx: 1, ny: 0, rho, border: false });
const level = (rho: number): Line => ({ nx: 0, ny: 1, rho, border: false });
const reaches = (quad: Quad, x: [number, number], y: [number, number]): boolean =>
  [
    [x[0], y[0]],
    [x[1], y[0]],
    [x[1], y[1]],
    [x[0], y[1]],
  ].every(([px, py], i) => Math.hypot(quad[i]!.x - px!, quad[i]!.y - py!) < 1);

const PICTURE = { width: WIDTH, height: HEIGHT };

describe('enumerateQuads', () => {
  const page = (x: number, y: number): boolean => x > 40 && x < 200 && y > 50 && y < 280;
  const four = [upright(40), level(50), upright(200), level(280)];

  it('puts the sides that are seen before those that are not', () => {
    const lines = evidenceOf([...four, upright(120), level(160)], page);
    const [best] = enumerateQuads(lines, PICTURE, 20, null);
    expect(reaches(best!.quad, [40, 200], [50, 280])).toBe(true);
  });

  it('gives every side the line that carries it, whatever the order of the lines', () => {
    for (const order of [
      [0, 1, 2, 3],
      [3, 1, 0, 2],
      [2, 3, 0, 1],
      [1, 0, 3, 2],
    ]) {
      const lines = evidenceOf(
        order.map((k) => four[k]!),
        page,
      );
      const candidates = enumerateQuads(lines, PICTURE, 20, null);
      expect(candidates).toHaveLength(1);
      const { quad, sides } = candidates[0]!;
      expect(isConvexQuad(quad)).toBe(true);
      sides.forEach(({ line }, s) => {
        for (const corner of [quad[s]!, quad[(s + 1) % 4]!])
          expect(Math.abs(corner.x * line.nx + corner.y * line.ny - line.rho)).toBeLessThan(1e-6);
      });
    }
  });

  it('counts outlines that all but coincide once', () => {
    const lines = evidenceOf([...four, upright(42), level(278)], page);
    expect(enumerateQuads(lines, PICTURE, 20, null)).toHaveLength(1);
  });

  it('keeps places for a page that runs out of the picture on two sides, however many others there are', () => {
    const running = (x: number, y: number): boolean => x < 200 && y < 280;
    const others = [60, 90, 120, 150].flatMap((at) => [upright(at), level(at)]);
    const lines = evidenceOf([upright(200), level(280), ...others, ...borderLines(WIDTH, HEIGHT)], running);
    expect(enumerateQuads(lines, PICTURE, 10, null).some(({ quad }) => reaches(quad, [0, 200], [0, 280]))).toBe(true);
  });

  it('takes three lines through almost one point for no page', () => {
    const slanting: Line = { nx: Math.SQRT1_2, ny: -Math.SQRT1_2, rho: (40.2 - 50) * Math.SQRT1_2, border: false };
    const lines = evidenceOf([upright(40), level(50), slanting, upright(200)], page);
    expect(enumerateQuads(lines, PICTURE, 20, null)).toHaveLength(0);
  });

  it('prefers what the network takes for the page where the edges say the same', () => {
    const lines = evidenceOf([upright(40), upright(120), upright(200), level(50), level(280)], () => false);
    const map = {
      width: WIDTH,
      height: HEIGHT,
      page: Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
        i % WIDTH > 120 && page(i % WIDTH, Math.floor(i / WIDTH)) ? 1 : 0,
      ),
      pageArea: 0,
      edge: new Float32Array(WIDTH * HEIGHT),
    };
    const [best] = enumerateQuads(lines, PICTURE, 10, map);
    expect(reaches(best!.quad, [120, 200], [50, 280])).toBe(true);
  });
});
