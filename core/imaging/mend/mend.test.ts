import { photoToPage, pageToPhoto } from '../flatten/placeOnPage';
import { readShape } from '../flatten/flattenPage';
import type { Quad } from '../geometry/quad';
import { wholePicture } from '../geometry/quad';
import { flatPageOf, readPageLight } from '../finish/pageLight';
import type { PixelImage } from '../raster/pixelImage';
import { findBlemishes } from './findBlemishes';
import { MOST_MENDS, mendsProblem, type Mend } from './mend';
import { mendPage } from './mendPage';

const WIDTH = 600;
const HEIGHT = 848;
type Colour = readonly [number, number, number];
function paint(colour: (x: number, y: number) => Colour): PixelImage {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) data.set(colour(x, y), (y * WIDTH + x) * 3);
  return { width: WIDTH, height: HEIGHT, channels: 3, data };
}
const shape = { corners: wholePicture(WIDTH, HEIGHT), sheet: null };
const at = ({ data }: PixelImage, x: number, y: number): number[] =>
  Array.from(data.subarray((y * WIDTH + x) * 3, (y * WIDTH + x) * 3 + 3));
const paper = (x: number): Colour => [220 - x * 0.1, 215 - x * 0.1, 200 - x * 0.1];
const SKIN: Colour = [196, 140, 112];
const inThumb = (x: number, y: number): boolean =>
  x < 70 && Math.abs(y - 300) < 32 && (x < 40 || (x - 40) ** 2 + (y - 300) ** 2 < 900);

describe('mending', () => {
  const dab: Mend = {
    points: [
      { x: 200, y: 400 },
      { x: 260, y: 400 },
    ],
    radius: 26,
  };

  it('puts paper of the light around it where a stain was', () => {
    const stained = paint((x, y) => ((x - 230) ** 2 + (y - 400) ** 2 < 400 ? [120, 90, 60] : paper(x)));
    const { page: mended } = mendPage(stained, shape, [dab]);
    for (const x of [215, 230, 245]) expect(Math.abs(at(mended, x, 400)[1]! - paper(x)[1])).toBeLessThan(5);
    expect(at(mended, 400, 400)).toEqual(at(stained, 400, 400));
    expect(at(stained, 230, 400)).toEqual([120, 90, 60]);
  });

  it('goes on with ruled lines, and not with what is written beside it', () => {
    const page = paint((x, y) => {
      if ((x - 230) ** 2 + (y - 400) ** 2 < 400) return [120, 90, 60];
      if (x > 300 && x < 303 && y > 380 && y < 420) return [40, 40, 60];
      return y % 40 < 2 ? (paper(x).map((v) => v * 0.85) as unknown as Colour) : paper(x);
    });
    const { page: mended } = mendPage(page, shape, [dab]);
    expect(at(mended, 230, 400)[1]! / paper(230)[1]).toBeCloseTo(0.85, 1);
    expect(at(mended, 230, 410)[1]! / paper(230)[1]).toBeGreaterThan(0.96);
  });

  it('hands the page back where nothing is painted', () => {
    const page = paint(paper);
    expect(mendPage(page, shape, []).page).toBe(page);
    expect(mendPage(page, shape, [{ points: [{ x: -500, y: -500 }], radius: 10 }]).page).toBe(page);
  });

  it('refuses what is no mend, with a sentence', () => {
    expect(mendsProblem([dab])).toBeNull();
    expect(mendsProblem([{ points: [], radius: 3 }])).toMatch(/Paint it again/);
    expect(mendsProblem([{ points: [{ x: 1, y: Number.NaN }], radius: 3 }])).toMatch(/Paint it again/);
    expect(mendsProblem(Array.from({ length: MOST_MENDS + 1 }, () => dab))).toMatch(/at most/);
  });
});

describe('mending at any size', () => {
  it.each([
    [1000, 1415],
    [1004, 1415],
    [1653, 2338],
    [1271, 1797],
  ])('a smudge of the paper’s own hue goes at %i × %i', (width, height) => {
    const data = new Uint8ClampedArray(width * height * 3);
    const middle = { x: Math.round(width * 0.62), y: Math.round(height * 0.8) };
    const radius = width * 0.05;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const dim = (x - middle.x) ** 2 + (y - middle.y) ** 2 < radius ** 2 ? 0.5 : 1;
        data.set([220 * dim, 215 * dim, 200 * dim], (y * width + x) * 3);
      }
    const page: PixelImage = { width, height, channels: 3, data };
    const whole = { corners: wholePicture(width, height), sheet: null };
    const { page: mended } = mendPage(page, whole, [{ points: [middle], radius: radius * 1.3 }]);
    const seen = mended.data[(middle.y * width + middle.x) * 3]!;
    expect(Math.abs(seen - 220)).toBeLessThan(8);
  });
});

describe('places of page and photo', () => {
  it('go there and back, on flat sheets and on bent ones', () => {
    const corners: Quad = [
      { x: 210, y: 160 },
      { x: 1320, y: 240 },
      { x: 1260, y: 1780 },
      { x: 120, y: 1700 },
    ];
    const bow = [0.02, 0.028, 0.02] as const;
    for (const bends of [undefined, [bow, [0, 0, 0], [-0.02, -0.028, -0.02], [0, 0, 0]] as const]) {
      const laid = readShape(corners, { width: 1500, height: 2000 }, { bends });
      const forth = pageToPhoto(laid);
      const back = photoToPage(laid);
      for (const [u, v] of [
        [0.1, 0.2],
        [0.5, 0.5],
        [0.9, 0.8],
      ] as const) {
        const place = back(forth(u, v));
        expect(place.x).toBeCloseTo(u, 3);
        expect(place.y).toBeCloseTo(v, 3);
      }
    }
  });
});

describe('what nobody wrote', () => {
  it('is found: a finger at the side, with strokes that take it away', () => {
    const page = paint((x, y) => (inThumb(x, y) ? SKIN : paper(x)));
    const lit = readPageLight(flatPageOf(page));
    const found = findBlemishes(page, lit.field, { ...shape, size: { width: WIDTH, height: HEIGHT } });
    expect(found.map(({ kind }) => kind)).toEqual(['thumb']);
    expect(found[0]!.at.x).toBeLessThan(0.15);
    const { page: mended } = mendPage(page, shape, found[0]!.mends);
    for (const [x, y] of [
      [5, 300],
      [50, 300],
      [30, 280],
    ] as const)
      expect(Math.abs(at(mended, x, y)[2]! - paper(x)[2])).toBeLessThan(12);
  });

  it('is found: two binding holes, and not a word or a lone dot', () => {
    const hole = (x: number, y: number, cy: number): boolean => (x - 30) ** 2 + (y - cy) ** 2 < 49;
    const page = paint((x, y) =>
      hole(x, y, 250) || hole(x, y, 600)
        ? [70, 60, 50]
        : (x - 300) ** 2 + (y - 300) ** 2 < 49
          ? [20, 20, 20]
          : x > 100 && x < 140 && y > 50 && y < 60
            ? [30, 30, 30]
            : paper(x),
    );
    const found = findBlemishes(page, readPageLight(flatPageOf(page)).field, {
      ...shape,
      size: { width: WIDTH, height: HEIGHT },
    });
    expect(found.map(({ kind }) => kind)).toEqual(['hole', 'hole']);
  });

  it('is nothing on a clean page', () => {
    const page = paint((x, y) => (y % 50 < 3 && x > 60 && x < 500 ? [40, 50, 140] : paper(x)));
    expect(
      findBlemishes(page, readPageLight(flatPageOf(page)).field, { ...shape, size: { width: WIDTH, height: HEIGHT } }),
    ).toEqual([]);
  });
});
