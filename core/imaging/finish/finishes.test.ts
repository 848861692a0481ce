import { createRandom } from '../../../demo/random';
import type { PixelImage } from '../raster/pixelImage';
import { applyFinish } from './applyFinish';
import { sharpeningGain } from './sharpeningGain';
import { flatPageOf, readPageLight, toFinish } from './pageLight';
import { cleanBorder } from './cleanBorder';
import { despeckleInto } from './despeckle';
import { lightProblem, PLAIN_LIGHT, type Finish, type LightSettings } from './finishSettings';
import { suggestFinish } from './suggestFinish';

const WIDTH = 640;
const HEIGHT = 900;
type Colour = readonly [number, number, number];

/** A page with a little noise on it, painted by a function of place. */
function paint(colour: (x: number, y: number) => Colour, noise = 3): PixelImage {
  const random = createRandom(7);
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const [r, g, b] = colour(x, y);
      const off = noise * random.gauss();
      data.set([r + off, g + off, b + off], (y * WIDTH + x) * 3);
    }
  }
  return { width: WIDTH, height: HEIGHT, channels: 3, data };
}
const finish = (page: PixelImage, which: Finish, settings: Partial<LightSettings> = {}): PixelImage =>
  applyFinish(toFinish(flatPageOf(page)), which, { ...PLAIN_LIGHT, ...settings });
const PAPER: Colour = [205, 200, 190];
const stroke = (x: number, y: number): boolean => y % 40 < 4 && x > 80 && x < 560;
const written = (ink: Colour, paper: (x: number) => Colour = () => PAPER): PixelImage =>
  paint((x, y) => (stroke(x, y) ? ink : paper(x)));
const valueAt = ({ width, height, channels, data }: PixelImage, x: number, y: number): number[] => {
  const at = (Math.floor((y / HEIGHT) * height) * width + Math.floor((x / WIDTH) * width)) * channels;
  return Array.from(data.subarray(at, at + channels));
};
const meanOf = (page: PixelImage): number => page.data.reduce((sum, v) => sum + v, 0) / page.data.length;

describe('every finish', () => {
  it.each(['daylight', 'pencil', 'press', 'board'] as const)('%s keeps a blank, noisy, shaded page blank', (which) => {
    const page = finish(
      paint((x) => [220 - x * 0.12, 214 - x * 0.12, 200 - x * 0.12], 2),
      which,
    );
    const sorted = Array.from(page.data).sort((a, b) => a - b);
    expect(sorted[Math.floor(sorted.length * 0.05)]).toBeGreaterThanOrEqual(240);
    expect(sorted[sorted.length >> 1]).toBeGreaterThanOrEqual(250);
  });
});

describe('the noise of dim light', () => {
  it('is told from calm paper, and not sharpened along with the strokes', () => {
    const noisy = (by: number): PixelImage => paint((x, y) => (stroke(x, y) ? [70, 68, 64] : PAPER), by);
    const calm = [1, 2, 4].map((by) => sharpeningGain(readPageLight(flatPageOf(noisy(by)))));
    expect(calm[0]).toBe(1);
    expect(calm[2]).toBe(0);
    expect(calm[1]).toBeGreaterThanOrEqual(calm[2]!);
    // along the middle of a stroke
    const scatter = (page: PixelImage): number => {
      const values = Array.from(
        { length: 400 },
        (_, k) => page.data[(402 * page.width + 100 + k) * page.channels + 1]!,
      );
      const mean = values.reduce((a, b) => a + b) / values.length;
      return Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length);
    };
    const page = noisy(8);
    expect(scatter(finish(page, 'daylight'))).toBeLessThan(1.6 * scatter(finish(page, 'asshot')));
  });
});

describe('Pencil', () => {
  it('lifts a faint stroke and leaves grain where it is', () => {
    const page = written([178, 174, 165]);
    const before = valueAt(page, 300, 401)[0]! / PAPER[0];
    const lit = finish(page, 'pencil');
    expect(lit.channels).toBe(1);
    expect(valueAt(lit, 300, 401)[0]! / 255).toBeLessThan(before - 0.1);
    expect(valueAt(lit, 300, 420)[0]).toBeGreaterThan(248);
  });

  it('fades ruled lines when asked to, and leaves what is written over them', () => {
    const ruled = paint(
      (x, y) => (x > 300 && x < 310 && y > 100 && y < 800 ? [60, 60, 70] : y % 60 < 2 ? [176, 180, 186] : PAPER),
      1,
    );
    const kept = finish(ruled, 'pencil');
    const faded = finish(ruled, 'pencil', { fadeRules: true });
    expect(valueAt(kept, 500, 421)[0]).toBeLessThan(225);
    expect(valueAt(faded, 500, 421)[0]).toBeGreaterThan(235);
    expect(valueAt(faded, 305, 450)[0]).toBeLessThan(90);
  });
});

describe('Press', () => {
  it('keeps close strokes apart in Press that the lens ran together', () => {
    // bars of three pixels, two apart, as a lens blurs them: the gaps are half as dark as the bars
    const bar = (x: number): number => (x % 5 < 3 ? 1 : 0);
    const blurred = (x: number): number =>
      [1, 4, 6, 4, 1].reduce((sum, weight, k) => sum + (weight * bar(x + k - 2)) / 16, 0);
    const covered = (x: number, y: number): number => (x > 100 && x < 540 && y % 30 < 12 ? 0.85 * blurred(x) : 0);
    const page = finish(
      paint((x, y) => PAPER.map((v) => v * (1 - covered(x, y))) as unknown as Colour, 0.6),
      'press',
    );
    const inGaps = Array.from({ length: 80 }, (_, k) => valueAt(page, 124 + 5 * k, 306)[0]!);
    expect(inGaps.filter((v) => v === 255).length).toBeGreaterThan(70);
  });

  it('has two levels, and is enlarged where detail is small', () => {
    const page = finish(written([60, 60, 70]), 'press');
    expect(page.channels).toBe(1);
    expect([...new Set(page.data)].sort((a, b) => a - b)).toEqual([0, 255]);
    expect(page.height).toBe(2 * HEIGHT);
  });

  it('keeps strokes of their width in light and in a hard shadow, dark or faint, without pepper', () => {
    for (const share of [0.3, 0.85]) {
      const light = (x: number): Colour => (x < 320 ? PAPER : [124, 121, 115]);
      const page = finish(
        paint((x, y) => (stroke(x, y) ? (light(x).map((v) => v * share) as unknown as Colour) : light(x)), 1.5),
        'press',
      );
      const factor = page.height / HEIGHT;
      for (const x of [200, 440]) {
        let dark = 0;
        for (let y = 390 * factor; y < 430 * factor; y++) dark += page.data[y * page.width + x * factor] === 0 ? 1 : 0;
        expect(dark / factor).toBeGreaterThan(2.5);
        expect(dark / factor).toBeLessThan(6);
        for (let y = 410 * factor; y < 430 * factor; y++) expect(page.data[y * page.width + x * factor]).toBe(255);
      }
    }
  });

  it('takes squared paper’s rules out, where they cross too, and leaves a thin printed line', () => {
    const page = finish(
      paint(
        (x, y) =>
          y === 450 || y === 451
            ? [60, 58, 55]
            : x % 30 < 2 || y % 30 < 2
              ? x % 30 < 2 && y % 30 < 2
                ? [166, 168, 170]
                : [182, 182, 182]
              : PAPER,
        1,
      ),
      'press',
    );
    const factor = page.height / HEIGHT;
    const inkIn = (top: number, bottom: number): number =>
      page.data
        .subarray(top * factor * page.width, bottom * factor * page.width)
        .reduce((n, v) => n + (v === 0 ? 1 : 0), 0);
    expect(inkIn(60, 440) / (380 * factor * page.width)).toBeLessThan(0.0005);
    expect(inkIn(448, 454)).toBeGreaterThan(page.width * factor);
  });

  it('takes grain for grain: single spots go, a full stop stays', () => {
    const page: PixelImage = {
      width: 1000,
      height: 1400,
      channels: 1,
      data: new Uint8ClampedArray(1_400_000).fill(255),
    };
    page.data[500_500] = 0;
    for (let y = 600; y < 604; y++) for (let x = 300; x < 304; x++) page.data[y * 1000 + x] = 0;
    despeckleInto(page);
    expect(page.data[500_500]).toBe(255);
    expect(page.data[602 * 1000 + 302]).toBe(0);
  });
});

describe('Board', () => {
  it('wipes ghosts away and makes marker colours stronger', () => {
    const page = finish(
      paint((x, y) => (stroke(x, y) ? [170, 70, 70] : y > 600 ? [188, 184, 176] : PAPER), 1),
      'board',
    );
    const [r, g] = valueAt(page, 300, 401);
    expect(r! - g!).toBeGreaterThan(110);
    expect(Math.min(...valueAt(page, 300, 860))).toBeGreaterThan(245);
  });

  it('evens a dark board out, and turns it into dark writing on white that keeps its hue', () => {
    const chalk = paint((x, y) => (stroke(x, y) ? [210, 190, 90] : [40 + x * 0.03, 52 + x * 0.03, 46 + x * 0.03]), 1);
    const dark = finish(chalk, 'board');
    expect(Math.max(...valueAt(dark, 300, 420))).toBeLessThan(20);
    const turned = finish(chalk, 'board', { invert: true });
    expect(Math.min(...valueAt(turned, 300, 420))).toBeGreaterThan(235);
    const [r, g, b] = valueAt(turned, 300, 401);
    expect(r!).toBeGreaterThan(b! + 40);
    expect(g!).toBeGreaterThan(b!);
  });
});

describe('the controls', () => {
  const page = written([70, 80, 160]);
  const plain = finish(page, 'daylight');

  it('leave a page as it is where nothing is set', () => {
    expect(finish(page, 'asshot')).toBe(page);
  });

  it('brighten, darken, take colour away and give it', () => {
    const ink = (lit: PixelImage): number[] => valueAt(lit, 300, 401);
    expect(meanOf(finish(page, 'asshot', { brightness: 0.5 }))).toBeGreaterThan(meanOf(page) + 10);
    expect(meanOf(finish(page, 'asshot', { brightness: -0.5 }))).toBeLessThan(meanOf(page) - 10);
    const [r, g, b] = ink(finish(page, 'daylight', { colour: -1 }));
    expect(Math.max(r!, g!, b!) - Math.min(r!, g!, b!)).toBeLessThan(3);
    const stronger = ink(finish(page, 'asshot', { colour: 1 }));
    expect(stronger[2]! - stronger[0]!).toBeGreaterThan(ink(page)[2]! - ink(page)[0]! + 30);
  });

  it('go back towards the photo as strength goes down', () => {
    const half = finish(page, 'daylight', { strength: 0.5 });
    const paper = valueAt(half, 300, 420)[1]!;
    expect(paper).toBeGreaterThan(PAPER[1] + 15);
    expect(paper).toBeLessThan(valueAt(plain, 300, 420)[1]! - 15);
    expect(Array.from(finish(page, 'daylight', { strength: 0 }).data.slice(0, 3000))).toEqual(
      Array.from(page.data.slice(0, 3000)),
    );
  });

  it('sharpen edges and nothing else', () => {
    const soft = paint((x) => {
      const v = 120 + 60 * Math.tanh((x - 320) / 3);
      return [v, v, v];
    }, 0);
    const sharp = finish(soft, 'asshot', { sharpness: 1 });
    const steep = (lit: PixelImage): number => valueAt(lit, 322, 450)[0]! - valueAt(lit, 318, 450)[0]!;
    expect(steep(sharp)).toBeGreaterThan(steep(soft) + 4);
    expect(valueAt(sharp, 100, 450)).toEqual(valueAt(soft, 100, 450));
  });

  it('are refused with a sentence where they are out of bounds', () => {
    expect(lightProblem(PLAIN_LIGHT)).toBeNull();
    expect(lightProblem({ ...PLAIN_LIGHT, contrast: 2 })).toMatch(/contrast must lie between -1 and 1/);
    expect(lightProblem({ ...PLAIN_LIGHT, invert: 'yes' })).toMatch(/true or false/);
    expect(lightProblem(null)).toMatch(/Choose a finish/);
  });
});

describe('the rim', () => {
  const blank = (): PixelImage => ({
    width: WIDTH,
    height: HEIGHT,
    channels: 3,
    data: new Uint8ClampedArray(WIDTH * HEIGHT * 3).fill(255),
  });
  const dark = (page: PixelImage, x: number, y: number): void =>
    void page.data.fill(60, (y * WIDTH + x) * 3, (y * WIDTH + x) * 3 + 3);

  it('loses a sliver of desk along a side, even a broken one', () => {
    const page = blank();
    for (let y = 100; y < 800; y++) if (y % 10 < 8) for (let x = WIDTH - 3; x < WIDTH; x++) dark(page, x, y);
    const clean = cleanBorder(page);
    expect(clean.data.every((v) => v === 255)).toBe(true);
    expect(page.data.includes(60)).toBe(true);
  });

  it('loses a short tick at the very edge, and keeps a short word a little further in', () => {
    const page = blank();
    for (let y = 300; y < 312; y++) dark(page, 0, y);
    for (let y = 500; y < 512; y++) for (let x = 8; x < 11; x++) dark(page, x, y);
    const clean = cleanBorder(page);
    expect(clean.data[300 * WIDTH * 3]).toBe(255);
    expect(clean.data[(505 * WIDTH + 9) * 3]).toBe(60);
  });

  it('keeps a rule that runs off the page, and a page with nothing to clean is handed back', () => {
    const page = blank();
    for (let x = 0; x < WIDTH; x++) dark(page, x, 400);
    expect(cleanBorder(page)).toBe(page);
  });
});

describe('the suggestion', () => {
  it('is Daylight for coloured ink, Press for black, Pencil for grey strokes, and none for a blank page', () => {
    expect(suggestFinish(readPageLight(flatPageOf(written([60, 70, 160]))))).toBe('daylight');
    expect(suggestFinish(readPageLight(flatPageOf(written([40, 40, 42]))))).toBe('press');
    expect(suggestFinish(readPageLight(flatPageOf(written([150, 147, 140]))))).toBe('pencil');
    expect(suggestFinish(readPageLight(flatPageOf(paint(() => PAPER))))).toBeNull();
  });

  it('does not take thin print that the lens blurred for pencil, nor pale blue ink for grey', () => {
    // a stroke's ink over three rows: the middle one, and half of it above and below
    const blurred = (middle: Colour): PixelImage =>
      paint(
        (x, y) =>
          x <= 80 || x >= 560 || y % 40 > 2
            ? PAPER
            : y % 40 === 1
              ? middle
              : (PAPER.map((v, c) => (v + middle[c]!) / 2) as unknown as Colour),
        1,
      );
    const share = (of: number): Colour => PAPER.map((v) => v * (1 - of)) as unknown as Colour;
    expect(suggestFinish(readPageLight(flatPageOf(blurred(share(0.42)))))).toBe('press');
    expect(suggestFinish(readPageLight(flatPageOf(blurred(share(0.26)))))).toBe('pencil');
    expect(suggestFinish(readPageLight(flatPageOf(blurred([140, 142, 160]))))).toBe('daylight');
  });
});
