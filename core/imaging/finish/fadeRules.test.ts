import { createRandom } from '../../../demo/random';
import { fadeRuledLines } from './fadeRules';

const WIDTH = 520;
const HEIGHT = 740;
/** A plane of ink depth painted by place, with grain. */
const plane = (depthAt: (x: number, y: number) => number): Uint8ClampedArray<ArrayBuffer> => {
  const random = createRandom(4);
  return Uint8ClampedArray.from(
    { length: WIDTH * HEIGHT },
    (_, i) => depthAt(i % WIDTH, Math.floor(i / WIDTH)) + random.gauss(),
  );
};
const meanDepth = (depth: Uint8ClampedArray, inside: (x: number, y: number) => boolean): number => {
  let [sum, n] = [0, 0];
  for (let i = 0; i < depth.length; i++) {
    if (!inside(i % WIDTH, Math.floor(i / WIDTH))) continue;
    sum += depth[i]!;
    n++;
  }
  return sum / n;
};
const fade = (depth: Uint8ClampedArray<ArrayBuffer>): Uint8ClampedArray => fadeRuledLines(depth, WIDTH, HEIGHT);
const ruled = (_: number, y: number): boolean => y % 34 < 2;
const squared = (x: number, y: number): boolean => x % 30 < 2 || y % 30 < 2;

describe('fadeRuledLines', () => {
  it.each([
    ['ruled', ruled],
    ['squared', squared],
  ] as const)('takes the rules out of %s paper', (_, on) => {
    const faded = fade(plane((x, y) => (on(x, y) ? 22 : 2)));
    expect(meanDepth(faded, (x, y) => on(x, y) && x > 60 && x < WIDTH - 60)).toBeLessThan(6);
  });

  it('keeps writing, on the rules and between them', () => {
    const pen = (x: number, y: number): boolean => x > 120 && x < 400 && y % 68 > 20 && y % 68 < 44 && x % 26 < 5;
    const faded = fade(plane((x, y) => (pen(x, y) ? 110 : ruled(x, y) ? 22 : 2)));
    expect(meanDepth(faded, pen)).toBeGreaterThan(100);
  });

  it('keeps the thin dark lines of a table, a broad pale band, and a short faint stroke', () => {
    const table = (_: number, y: number): boolean => y % 120 < 2;
    expect(meanDepth(fade(plane((x, y) => (table(x, y) ? 120 : 2))), table)).toBeGreaterThan(110);
    const band = (_: number, y: number): boolean => y > 300 && y < 330;
    expect(meanDepth(fade(plane((x, y) => (band(x, y) ? 24 : 2))), band)).toBeGreaterThan(20);
    const dash = (x: number, y: number): boolean => y % 60 < 3 && x > 300 && x < 318;
    expect(meanDepth(fade(plane((x, y) => (dash(x, y) ? 24 : 2))), dash)).toBeGreaterThan(20);
  });

  it('leaves what it was given alone', () => {
    const given = plane((x, y) => (ruled(x, y) ? 22 : 2));
    const before = given.slice();
    fade(given);
    expect(given).toEqual(before);
  });
});
