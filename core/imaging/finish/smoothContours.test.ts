import { connectedRegions } from '../raster/connectedRegions';
import type { PixelImage } from '../raster/pixelImage';
import { createRandom } from '../../../demo/random';
import { smoothContoursInto } from './smoothContours';

/** A page from rows of text: # is ink. */
const pageOf = (rows: readonly string[]): PixelImage => ({
  width: rows[0]!.length,
  height: rows.length,
  channels: 1,
  data: Uint8ClampedArray.from([...rows.join('')], (sign) => (sign === '#' ? 0 : 255)),
});
const rowsOf = ({ width, height, data }: PixelImage): string[] =>
  Array.from({ length: height }, (_, y) =>
    Array.from(data.subarray(y * width, (y + 1) * width), (level) => (level === 0 ? '#' : '.')).join(''),
  );
const smoothed = (...rows: string[]): string[] => rowsOf(smoothContoursInto(pageOf(rows)));

/** Blots some 20 px across, with noise along their contours. */
function noisyBlots(seed: number): PixelImage {
  const random = createRandom(seed);
  const [width, height] = [160, 120];
  const phases = Array.from({ length: 4 }, () => random.between(0, 6.3));
  return {
    width,
    height,
    channels: 1,
    data: Uint8ClampedArray.from({ length: width * height }, (_, i) => {
      const [x, y] = [i % width, Math.floor(i / width)];
      const hills =
        Math.sin(x / 5 + phases[0]!) * Math.sin(y / 6 + phases[1]!) + 0.4 * Math.sin((x + y) / 3 + phases[2]!);
      return hills + 0.06 * random.gauss() > 0.25 ? 0 : 255;
    }),
  };
}
/** Holes and the paper around them, joined over sides. */
const paperPartsOf = ({ width, height, data }: PixelImage): number =>
  connectedRegions(
    Uint8Array.from(data, (level) => Number(level !== 0)),
    width,
    height,
  ).length;
/** Strokes (joined over corners) less their holes, from squares of four pixels (Gray 1971). */
function eulerNumberOf({ width, height, data }: PixelImage): number {
  const inkAt = (x: number, y: number): number =>
    x < 0 || y < 0 || x >= width || y >= height || data[y * width + x] !== 0 ? 0 : 1;
  let quarters = 0;
  for (let y = -1; y < height; y++)
    for (let x = -1; x < width; x++) {
      const [a, b, c, d] = [inkAt(x, y), inkAt(x + 1, y), inkAt(x, y + 1), inkAt(x + 1, y + 1)];
      const ink = a + b + c + d;
      quarters += ink === 1 ? 1 : ink === 3 ? -1 : ink === 2 && a === d ? -2 : 0;
    }
  return quarters / 4;
}
/** Pixels whose neighbour to the right or below is the other one: how long contours are. */
const contourOf = ({ width, data }: PixelImage): number =>
  data.reduce((sum, level, i) => sum + Number(data[i + 1] !== level) + Number(data[i + width] !== level), 0);

describe('smoothContoursInto', () => {
  it('takes a bump away and fills a pit', () => {
    expect(
      smoothed(
        '..........', //
        '...#......',
        '##########',
        '##########',
        '######.###',
        '..........',
      ),
    ).toEqual([
      '..........', //
      '..........',
      '##########',
      '##########',
      '##########',
      '..........',
    ]);
  });

  it('leaves steps of straight edges, lines of one pixel, their ends, dots and gaps of one pixel', () => {
    const page = [
      '................', //
      '.#####..........',
      '................',
      '................',
      '................',
      '................',
      '................',
      '...#......#.....',
      '....#.....#..##.',
      '.....#....#..##.',
      '................',
      '................',
      '................',
      '................',
      '................',
    ];
    const out = smoothed(...page);
    // corners and the ends of lines two pixels wide are rounded; nothing else changes
    for (const [y, row] of page.entries())
      for (const [x, sign] of [...row].entries())
        if (out[y]![x] !== sign)
          expect([y, x, sign].join()).toMatch(/^(1,1|3,1|[23],10|11,1|13,1|11,12|13,12|[89],1[34]),#$/);
    expect(out[5]).toBe(page[5]);
    expect(out[7]).toBe(page[7]);
  });

  it.each([1, 2, 3, 4, 5, 6])('joins and parts nothing, and shortens contours (%i)', (seed) => {
    const page = noisyBlots(seed);
    const before = {
      paper: paperPartsOf(page),
      euler: eulerNumberOf(page),
      contour: contourOf(page),
      data: page.data.slice(),
    };
    smoothContoursInto(page);
    expect(paperPartsOf(page)).toBe(before.paper);
    expect(eulerNumberOf(page)).toBe(before.euler);
    expect(contourOf(page)).toBeLessThan(0.95 * before.contour);
    const changed = page.data.reduce((sum, level, i) => sum + Number(level !== before.data[i]), 0);
    expect(changed).toBeLessThan(0.1 * before.contour);
    expect(page.data.every((level) => level === 0 || level === 255)).toBe(true);
  });
});
