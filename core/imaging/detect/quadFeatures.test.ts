import { itInWorkspace } from '../kernels/itInWorkspace';
import type { Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { smoothPicture, toColourPicture } from './colourPicture';
import { gradientField } from './edgePoints';
import { readLineProfile, type LineProfile } from './lineProfile';
import { borderLines, type Line } from './lineProposals';
import type { PageSegmentation } from './pageNetwork';
import { enumerateQuads } from './quadCandidates';
import { FEATURE_NAMES, SEGMENTATION_FEATURE_NAMES, measureQuad } from './quadFeatures';
import { confidenceFeatures, confidenceOf, rankQuad } from './quadScorer';

const { it, ws } = itInWorkspace();

const WIDTH = 260;
const HEIGHT = 340;
type Colour = readonly [number, number, number];
const upright = (rho: number): Line => ({ nx: 1, ny: 0, rho, border: false });
const level = (rho: number): Line => ({ nx: 0, ny: 1, rho, border: false });
const onPage = (x: number, y: number): boolean => x > 50 && x < 210 && y > 60 && y < 286;

/** What is measured of the one quadrilateral that four lines make on a painted desk, by name. */
function measured(
  four: readonly Line[],
  colourAt: (x: number, y: number) => Colour,
  others: readonly Line[] = [],
  map: PageSegmentation | null = null,
): Record<string, number> {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) data.set(colourAt(x, y), (y * WIDTH + x) * 3);
  const image: PixelImage = { width: WIDTH, height: HEIGHT, channels: 3, data };
  const planes = smoothPicture(toColourPicture(image, ws()), ws());
  const gradient = gradientField(planes, ws());
  const read = (lines: readonly Line[]): LineProfile[] =>
    lines.map((line) => readLineProfile(line, planes, gradient, map)!);
  const sides = read(four);
  const [candidate] = enumerateQuads(sides, planes, 5, map);
  const values = measureQuad(candidate!, [...sides, ...read(others)], planes, { p50: 110, p90: 210 }, map);
  return Object.fromEntries(
    [...FEATURE_NAMES, ...(map === null ? [] : SEGMENTATION_FEATURE_NAMES)].map((name, i) => [name, values[i]!]),
  );
}

const PAPER: Colour = [214, 212, 206];
const DESK: Colour = [92, 74, 60];
const desk = (x: number, y: number): Colour => (onPage(x, y) ? PAPER : DESK);
const own = [upright(50), level(60), upright(210), level(286)];

describe('measureQuad', () => {
  it('sees steps, paleness and evenness on the paper’s own outline', () => {
    const f = measured(own, desk);
    expect(f.stepLeast).toBeGreaterThan(0.6);
    expect(f.brighterLeast).toBeGreaterThan(0.7);
    expect(f.paperEvenness).toBeGreaterThan(0.95);
    expect(f.insideSpread).toBeLessThan(0.1);
    expect(f.overrunMost).toBeLessThan(0.1);
    expect(f.cornerSkew).toBeLessThan(0.01);
    expect([f.borderSides, f.unseen]).toEqual([0, 0]);
  });

  it('misses the step on a side that is none, and knows which way the others go', () => {
    const f = measured([upright(50), level(60), upright(130), level(286)], desk);
    expect(f.stepLeast).toBeLessThan(0.1);
    expect(f.stepSecondLeast).toBeGreaterThan(0.6);
    const darker = measured(own, (x, y) => (onPage(x, y) ? DESK : PAPER));
    expect(darker.brighterMean).toBeLessThan(-0.5);
  });

  it('sees edges that run on past the corners, as a pattern’s do', () => {
    const stripes = measured(
      own,
      (x, y) => (x > 50 && x < 210 ? PAPER : DESK).map((v) => (y > 60 && y < 286 ? v : v * 0.8)) as unknown as Colour,
    );
    expect(stripes.overrunMost).toBeGreaterThan(0.5);
  });

  it('sees a true edge that crosses the inside', () => {
    const two = (x: number, y: number): Colour => (onPage(x, y) ? (x > 130 ? [180, 178, 150] : PAPER) : DESK);
    expect(measured(own, two, [upright(130)]).innerEdgeMost).toBeGreaterThan(
      measured(own, desk, [upright(130)]).innerEdgeMost! + 0.3,
    );
  });

  it('counts sides that lie on the picture’s border', () => {
    const left = borderLines(WIDTH, HEIGHT)[3];
    const cut = measured([left!, level(60), upright(210), level(286)], (x, y) =>
      x < 210 && y > 60 && y < 286 ? PAPER : DESK,
    );
    expect(cut.borderSides).toBe(0.25);
  });

  it('agrees with the network where it covers the network’s page', () => {
    const map: PageSegmentation = {
      width: WIDTH / 2,
      height: HEIGHT / 2,
      page: new Float32Array((WIDTH * HEIGHT) / 4),
      pageArea: 0,
      edge: new Float32Array((WIDTH * HEIGHT) / 4),
    };
    for (let i = 0; i < map.page.length; i++)
      map.page[i] = onPage(2 * (i % map.width) + 1, 2 * Math.floor(i / map.width) + 1) ? 1 : 0;
    const whole = { ...map, pageArea: map.page.reduce((sum, p) => sum + p, 0) };
    expect(measured(own, desk, [], whole).pageOverlap).toBeGreaterThan(0.95);
    expect(measured([upright(50), level(60), upright(130), level(286)], desk, [], whole).pageOverlap).toBeLessThan(0.6);
  });
});

describe('the scorer', () => {
  const random = (seed: number) => (): number => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5;
  const member = (seed: number, features: number): number[] => Array.from({ length: 3 * (features + 2) }, random(seed));

  it('ranks by the mean of members that were trained apart', () => {
    const features = Float64Array.from([0.3, -0.2, 0.8]);
    const members = [member(3, 3), member(8, 3)];
    const joined = [
      ...members.flatMap((w) => w.slice(0, 12)),
      ...members.flatMap((w) => w.slice(12).map((v) => v / 2)),
    ];
    expect(rankQuad(features, joined)).toBeCloseTo(
      (rankQuad(features, members[0]!) + rankQuad(features, members[1]!)) / 2,
      9,
    );
  });

  it('is surer the further the best outline leads', () => {
    const at = (x: number): Quad => [
      { x, y: 0 },
      { x: x + 100, y: 0 },
      { x: x + 100, y: 140 },
      { x, y: 140 },
    ];
    const features = new Float64Array(FEATURE_NAMES.length + SEGMENTATION_FEATURE_NAMES.length).fill(0.5);
    const lead = (by: number): number =>
      confidenceFeatures(
        [
          { quad: at(0), score: 4, features },
          { quad: at(1), score: 3.9, features },
          { quad: at(60), score: 4 - by, features },
        ],
        { support: 0.9, shift: 0.01, leastSeen: 1 },
      )[2]!;
    // the runner-up that all but coincides is no rival
    expect(lead(2)).toBeCloseTo(1, 9);
    expect(lead(0.5)).toBeLessThan(lead(2));
    expect(confidenceOf([1, 2], [0, 0])).toBe(0.5);
    expect(confidenceOf([1, 2], [0, 3])).toBeGreaterThan(0.99);
  });
});
