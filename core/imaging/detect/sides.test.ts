import { itInWorkspace } from '../kernels/itInWorkspace';
import type { PixelImage } from '../raster/pixelImage';
import { createRandom } from '../../../demo/random';
import { ALL_STRAIGHT, mostBent, pointOnBentSide, STRAIGHT, type Bends } from '../geometry/bentOutline';
import type { Quad } from '../geometry/quad';
import { smoothPicture, toColourPicture, type ColourPicture } from './colourPicture';
import { findEdgePoints, gradientField } from './edgePoints';
import { readLineProfile, meanOver, bestSegment } from './lineProfile';
import { borderLines, proposeLines, mergeDuplicateLines, type Line } from './lineProposals';
import type { PageSegmentation } from './pageNetwork';
import { searchSidesWidely } from './searchSidesWidely';
import { refineOutline } from './refineOutline';
import type { SegmentedSearch, SideSearch } from './sideSearch';

const { it, ws } = itInWorkspace();

const WIDTH = 300;
const HEIGHT = 400;

/** A picture from a lightness at each place, smoothed over each pixel's area. */
function planesOf(lightness: (x: number, y: number) => number): ColourPicture {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      let sum = 0;
      for (let k = 0; k < 16; k++) sum += lightness(x + ((k & 3) + 0.5) / 4, y + ((k >> 2) + 0.5) / 4);
      data[y * WIDTH + x] = sum / 16;
    }
  }
  const image: PixelImage = { width: WIDTH, height: HEIGHT, channels: 1, data };
  return smoothPicture(toColourPicture(image, ws()), ws());
}

const evidenceOf = (line: Line, planes: ColourPicture) => readLineProfile(line, planes, gradientField(planes, ws()))!;
const upright = (rho: number): Line => ({ nx: 1, ny: 0, rho, border: false });

describe('lines', () => {
  it('are found where a slanted edge runs, even a faint one', () => {
    const angle = 0.3;
    const planes = planesOf((x, y) => (x * Math.cos(angle) + y * Math.sin(angle) > 220 ? 128 : 120));
    const [line] = proposeLines(findEdgePoints(gradientField(planes, ws()), { floor: 0.5 }, ws()), WIDTH, HEIGHT, 5);
    expect(Math.abs(line!.nx * Math.cos(angle) + line!.ny * Math.sin(angle))).toBeGreaterThan(0.9999);
    expect(Math.abs(Math.abs(line!.rho) - 220)).toBeLessThan(1);
  });

  it('that run beside one another across the picture count once', () => {
    expect(
      mergeDuplicateLines(
        [upright(100), upright(101), { nx: -1, ny: 0, rho: -100, border: false }, upright(140)],
        WIDTH,
        HEIGHT,
      ),
    ).toHaveLength(2);
    expect(mergeDuplicateLines(borderLines(WIDTH, HEIGHT), WIDTH, HEIGHT)).toHaveLength(4);
  });

  it('see a step between paper and desk, and none in even paper', () => {
    const step = evidenceOf(
      upright(150),
      planesOf((x) => (x < 150 ? 90 : 220)),
    );
    const even = evidenceOf(
      upright(150),
      planesOf((x) => 200 + (x % 2)),
    );
    expect(meanOver(step, step.step, step.start, step.start + step.length)).toBeGreaterThan(0.7);
    expect(meanOver(even, even.step, even.start, even.start + even.length)).toBeLessThan(0.1);
  });

  it('are judged by their best single stretch, and only where they are in the picture', () => {
    const half = evidenceOf(
      upright(150),
      planesOf((x, y) => (x < 150 && y < 200 ? 90 : 220)),
    );
    const whole = evidenceOf(
      upright(150),
      planesOf((x) => (x < 150 ? 90 : 220)),
    );
    expect(bestSegment(whole)).toBeGreaterThan(1.8 * bestSegment(half));
    expect(meanOver(whole, whole.step, -500, -400)).toBeNull();
    expect(
      readLineProfile(
        upright(5000),
        planesOf(() => 100),
        gradientField(
          planesOf(() => 100),
          ws(),
        ),
      ),
    ).toBeNull();
  });
});

describe('refineOutline', () => {
  const truth: Quad = [
    { x: 60.3, y: 50.6 },
    { x: 240.2, y: 58.4 },
    { x: 250.7, y: 340.1 },
    { x: 48.9, y: 330.8 },
  ];
  const off: Quad = [
    { x: 64, y: 47 },
    { x: 236, y: 61 },
    { x: 254, y: 337 },
    { x: 52, y: 334 },
  ];
  const inside = (x: number, y: number): boolean =>
    truth.every((a, i) => {
      const b = truth[(i + 1) % 4]!;
      return (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x) >= 0;
    });
  const searchIn = (picture: ColourPicture, more: Partial<SideSearch> = {}): SideSearch => ({
    picture,
    fixed: [false, false, false, false],
    polarity: 0,
    segmentation: null,
    ...more,
  });
  const straight = (quad: Quad) => ({ quad, bends: ALL_STRAIGHT });

  it('lands on the true corners to a third of a pixel', () => {
    const { quad, leastSupport } = refineOutline(
      searchIn(planesOf((x, y) => (inside(x, y) ? 215 : 80))),
      straight(off),
      8,
    );
    quad.forEach((corner, i) => expect(Math.hypot(corner.x - truth[i]!.x, corner.y - truth[i]!.y)).toBeLessThan(0.34));
    expect(leastSupport).toBeGreaterThan(0.8);
  });

  it('is not led astray by a thumb over a third of a side', () => {
    const thumb = (x: number, y: number): boolean => y > 150 && y < 240 && x > 210;
    const { quad } = refineOutline(
      searchIn(planesOf((x, y) => (thumb(x, y) ? 140 : inside(x, y) ? 215 : 80))),
      straight(off),
      8,
    );
    quad.forEach((corner, i) => expect(Math.hypot(corner.x - truth[i]!.x, corner.y - truth[i]!.y)).toBeLessThan(1));
  });

  it('follows a bowed side between its corners', () => {
    const bow = (x: number): number => 60 - 12 * (1 - ((x - 150) / 90) ** 2);
    const planes = planesOf((x, y) => (x > 60 && x < 240 && y < 340 && y > bow(x) ? 215 : 80));
    const { quad, bends } = refineOutline(
      searchIn(planes),
      straight([
        { x: 60, y: 58 },
        { x: 240, y: 58 },
        { x: 240, y: 340 },
        { x: 60, y: 340 },
      ]),
      16,
    );
    for (const p of [0.15, 0.35, 0.6, 0.8].map((t) => pointOnBentSide(quad[0], quad[1], bends[0], t)))
      expect(Math.abs(p.y - bow(p.x))).toBeLessThan(1.2);
  });

  it('takes a faint straight side in noise for straight', () => {
    const random = createRandom(5);
    const noise = Float32Array.from({ length: WIDTH * HEIGHT }, () => 9 * random.gauss());
    const noisy = planesOf((x, y) => (inside(x, y) ? 190 : 165) + noise[Math.floor(y) * WIDTH + Math.floor(x)]!);
    const { quad, bends } = refineOutline(searchIn(noisy), straight(off), 8);
    expect(mostBent(bends)).toBeLessThan(0.001);
    quad.forEach((corner, i) => expect(Math.hypot(corner.x - truth[i]!.x, corner.y - truth[i]!.y)).toBeLessThan(1));
  });

  it('go to the edge that the network sees where two are as plain', () => {
    // a sheet on another of the same size, 9 px apart: both sides' edges lie within reach
    const planes = planesOf((x, y) =>
      y > 60 && y < 340 && x > 60 && x < 231 ? 215 : y > 60 && y < 340 && x < 240 && x > 60 ? 150 : 85,
    );
    const start: Quad = [
      { x: 60, y: 60 },
      { x: 235, y: 60 },
      { x: 235, y: 340 },
      { x: 60, y: 340 },
    ];
    const seeing = (at: number): PageSegmentation => {
      const edge = Float32Array.from({ length: (WIDTH / 2) * (HEIGHT / 2) }, (_, i) =>
        Math.abs(2 * (i % (WIDTH / 2)) + 1 - at) < 3 ? 1 : 0,
      );
      return { width: WIDTH / 2, height: HEIGHT / 2, page: new Float32Array(edge.length), pageArea: 0, edge };
    };
    for (const at of [231, 240]) {
      const { quad } = refineOutline(searchIn(planes, { polarity: 1, segmentation: seeing(at) }), straight(start), 12);
      expect(Math.abs(quad[1].x - at)).toBeLessThan(1);
      expect(Math.abs(quad[2].x - at)).toBeLessThan(1);
    }
  });

  it('leaves a side on the picture’s border where it is', () => {
    const start: Quad = [
      { x: 60, y: 0 },
      { x: 240, y: 0 },
      { x: 240, y: 340 },
      { x: 60, y: 340 },
    ];
    const { quad } = refineOutline(
      searchIn(
        planesOf((x, y) => (x > 60 && x < 240 && y < 340 ? 215 : 80)),
        { fixed: [true, false, false, false] },
      ),
      straight(start),
      8,
    );
    expect(quad[0].y).toBeCloseTo(0, 1);
    expect(quad[1].y).toBeCloseTo(0, 1);
  });
});

describe('searchSidesWidely', () => {
  // a page on a sheet of nearly its tone, which shows below its foot on the left
  const page = (x: number, y: number): boolean => x > 60 && x < 240 && y > 50 && y < 330;
  const under = (x: number, y: number): boolean => x > 30 && x < 170 && y > 220 && y < 390;
  const planes = (): ColourPicture => planesOf((x, y) => (page(x, y) ? 216 : under(x, y) ? 204 : 80));
  const silent: PageSegmentation = {
    width: 75,
    height: 100,
    page: new Float32Array(7500),
    pageArea: 0,
    edge: new Float32Array(7500),
  };
  const truth: Quad = [
    { x: 60, y: 50 },
    { x: 240, y: 50 },
    { x: 240, y: 330 },
    { x: 60, y: 330 },
  ];
  /** The foot runs along the page's on the right and across the sheet below on the left. */
  const astray: Quad = [truth[0], truth[1], { x: 240, y: 327 }, { x: 60, y: 348 }];
  const from = (quad: Quad) => ({ quad, bends: ALL_STRAIGHT, leastSupport: 0.6 });
  const searchIn = (picture: ColourPicture, more: Partial<SegmentedSearch> = {}): SegmentedSearch => ({
    picture,
    fixed: [false, false, false, false],
    polarity: 1,
    segmentation: silent,
    ...more,
  });

  it('moves a side with a gap to where the page’s faint edge runs on', () => {
    const {
      outline: { quad },
      leastSeen,
    } = searchSidesWidely(searchIn(planes()), from(astray));
    expect(leastSeen).toBeGreaterThan(0.97);
    quad.forEach((corner, i) => expect(Math.hypot(corner.x - truth[i]!.x, corner.y - truth[i]!.y)).toBeLessThan(1.5));
  });

  it('leaves an outline without gaps, and sides that must stay, as they are', () => {
    const right = from(truth);
    expect(searchSidesWidely(searchIn(planes()), right).outline).toBe(right);
    const wrong = from(astray);
    expect(searchSidesWidely(searchIn(planes(), { fixed: [true, true, true, true] }), wrong).outline).toBe(wrong);
  });

  it('moves a side that bends as no sheet does, though it is seen all along', () => {
    // an arc is printed on the page, from one of its lower corners to the other
    const arc = (x: number): number => 330 - 34 * (1 - ((x - 150) / 90) ** 2);
    const drawn = planesOf((x, y) => (!page(x, y) ? 80 : y > arc(x) && y < arc(x) + 5 ? 60 : 216));
    const share = -34 / 180;
    const start = {
      quad: truth,
      bends: [STRAIGHT, STRAIGHT, [0.75 * share, share, 0.75 * share], STRAIGHT] as Bends,
      leastSupport: 0.9,
    };
    const {
      outline: { quad, bends },
    } = searchSidesWidely(searchIn(drawn), start);
    expect(mostBent(bends)).toBeLessThan(0.01);
    quad.forEach((corner, i) => expect(Math.hypot(corner.x - truth[i]!.x, corner.y - truth[i]!.y)).toBeLessThan(1.5));
  });

  it('does not move a side to where the network sees page beyond it', () => {
    // a band across the page's foot, its edge plainer than the foot's own
    const banded = planesOf((x, y) => (page(x, y) ? (y > 312 ? 150 : 216) : under(x, y) ? 152 : 80));
    const footOf = (segmentation: PageSegmentation): number =>
      searchSidesWidely(searchIn(banded, { segmentation }), from(astray)).outline.quad[3].y;
    const within = (top: number, bottom: number) =>
      Float32Array.from({ length: 7500 }, (_, i) =>
        4 * Math.floor(i / 75) + 2 > top && 4 * Math.floor(i / 75) + 2 < bottom ? 1 : 0,
      );
    expect(Math.abs(footOf(silent) - 312)).toBeLessThan(3);
    expect(footOf({ ...silent, page: within(50, 335), edge: within(325, 352) })).toBeGreaterThan(325);
  });
});
