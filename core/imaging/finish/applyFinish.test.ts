import type { PixelImage } from '../raster/pixelImage';
import { applyFinish } from './applyFinish';
import { flatPageOf, toFinish } from './pageLight';
import { FINISHES, PLAIN_LIGHT, type Finish, type LightSettings } from './finishSettings';

const WIDTH = 420;
const HEIGHT = 594;

/** A page painted by a function of place that gives red, green and blue. */
function paint(colour: (x: number, y: number) => readonly [number, number, number]): PixelImage {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) data.set(colour(x, y), (y * WIDTH + x) * 3);
  return { width: WIDTH, height: HEIGHT, channels: 3, data };
}
const finished = (page: PixelImage, finish: Finish, settings: Partial<LightSettings> = {}): PixelImage =>
  applyFinish(toFinish(flatPageOf(page)), finish, { ...PLAIN_LIGHT, ...settings });
const at = (page: PixelImage, x: number, y: number): number[] =>
  Array.from(page.data.subarray((y * WIDTH + x) * 3, (y * WIDTH + x) * 3 + 3));
const lowest = (page: PixelImage): number => page.data.reduce((a, b) => Math.min(a, b), 255);
const isStroke = (x: number, y: number): boolean => y % 30 < 3 && x > 60 && x < 360;

describe('Daylight', () => {
  it('keeps a blank page blank under every finish, whatever the paper’s tone', () => {
    const page = paint(() => [212, 205, 190]);
    const lit = finished(page, 'daylight');
    expect(lowest(lit)).toBeGreaterThan(250);
    expect(finished(page, 'asshot')).toBe(page);
  });

  it('takes a gradient and a coloured lamp away', () => {
    const lit = finished(
      paint((x, y) => [235 - x * 0.25, 215 - y * 0.15, 170 - x * 0.2]),
      'daylight',
    );
    const paper = lit.data.filter((_, i) => i % 11 === 0).sort((a, b) => a - b);
    expect(paper[Math.floor(paper.length * 0.05)]).toBeGreaterThan(240);
  });

  it('leaves less than a 2 % step where a hard shadow’s edge was', () => {
    const lit = finished(
      paint((x) => (x < 200 ? [225, 222, 214] : [140, 138, 133])),
      'daylight',
    );
    for (const y of [100, 300, 500]) {
      const left = at(lit, 150, y)[1]!;
      const right = at(lit, 260, y)[1]!;
      expect(Math.abs(left - right)).toBeLessThan(0.02 * 255);
    }
  });

  it('keeps ink dark in light and in shadow, and its colours in order', () => {
    const blue = [40, 60, 150] as const;
    const lit = finished(
      paint((x, y) => (isStroke(x, y) ? (x < 200 ? blue : [26, 40, 98]) : x < 200 ? [225, 222, 214] : [140, 138, 133])),
      'daylight',
    );
    for (const x of [120, 300]) {
      const [r, g, b] = at(lit, x, 301);
      expect(b!).toBeGreaterThan(r!);
      expect(b!).toBeGreaterThan(g!);
      expect(r!).toBeLessThan(110);
    }
  });

  it('keeps a large black square black: it is a thing, not a shadow', () => {
    const lit = finished(
      paint((x, y) => (x > 120 && x < 300 && y > 200 && y < 380 ? [30, 32, 34] : [220, 218, 210])),
      'daylight',
    );
    expect(Math.max(...at(lit, 210, 290))).toBeLessThan(46);
    expect(Math.min(...at(lit, 60, 60))).toBeGreaterThan(245);
  });

  it('never alters its input, and takes grey pages too', () => {
    const page = paint((x, y) => (isStroke(x, y) ? [30, 30, 30] : [200, 190, 170]));
    const before = page.data.slice();
    for (const finish of FINISHES) finished(page, finish);
    expect(Buffer.from(page.data).equals(Buffer.from(before))).toBe(true);
    const grey: PixelImage = {
      width: WIDTH,
      height: HEIGHT,
      channels: 1,
      data: new Uint8ClampedArray(WIDTH * HEIGHT).fill(180),
    };
    expect(lowest(finished(grey, 'daylight'))).toBeGreaterThan(250);
  });
});
