import { createRandom } from '../../../demo/random';
import { applyHomography, homographyBetween, type Homography } from '../geometry/homography';
import { distance, type Point } from '../geometry/point';
import { wholePicture, type Quad } from '../geometry/quad';
import type { Plane } from '../raster/plane';
import { registerFrames } from './registerFrames';

const WIDTH = 420;
const HEIGHT = 320;

/** Blobs of ink at places that are the same for every frame, seen through a homography; as smooth as a lens makes them. */
function frame(toReference: Homography, hand: Point | null = null, gain = 1): Plane {
  const random = createRandom(11);
  const blobs = Array.from({ length: 260 }, () => ({
    x: random.between(-20, WIDTH + 20),
    y: random.between(-20, HEIGHT + 20),
    depth: random.between(40, 130),
    size: random.between(2, 5),
  }));
  const data = new Float32Array(WIDTH * HEIGHT);
  const cells = new Map<number, typeof blobs>();
  const keyOf = (x: number, y: number): number => Math.floor(y / 20) * 1000 + Math.floor(x / 20);
  for (const blob of blobs)
    for (let dy = -20; dy <= 20; dy += 20)
      for (let dx = -20; dx <= 20; dx += 20)
        cells.set(keyOf(blob.x + dx, blob.y + dy), [...(cells.get(keyOf(blob.x + dx, blob.y + dy)) ?? []), blob]);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const p = applyHomography(toReference, { x, y });
      let light = 220;
      for (const blob of cells.get(keyOf(p.x, p.y)) ?? [])
        light -= blob.depth * Math.exp(-((p.x - blob.x) ** 2 + (p.y - blob.y) ** 2) / (2 * blob.size ** 2));
      if (hand !== null && Math.hypot(x - hand.x, y - hand.y) < 55) light = 120 + 30 * Math.sin(x / 3 + y / 5);
      data[y * WIDTH + x] = gain * light;
    }
  }
  return { width: WIDTH, height: HEIGHT, data };
}

const STILL: Homography = [1, 0, 0, 0, 1, 0, 0, 0, 1];
const whole = wholePicture(WIDTH, HEIGHT);
const moved = (offsets: readonly (readonly [number, number])[]): Quad =>
  whole.map((p, i) => ({ x: p.x + offsets[i]![0], y: p.y + offsets[i]![1] })) as unknown as Quad;
/** The most that a point well within the picture lies off where the truth puts it. */
const mostOff = (found: Homography, truth: Homography): number =>
  Math.max(
    ...[0.2, 0.5, 0.8].flatMap((v) =>
      [0.2, 0.5, 0.8].map((u) =>
        distance(
          applyHomography(found, { x: u * WIDTH, y: v * HEIGHT }),
          applyHomography(truth, { x: u * WIDTH, y: v * HEIGHT }),
        ),
      ),
    ),
  );

describe('registerFrames', () => {
  const reference = frame(STILL);

  it.each([
    [
      'a shift',
      [
        [7.3, -4.6],
        [7.3, -4.6],
        [7.3, -4.6],
        [7.3, -4.6],
      ],
    ],
    [
      'a turn and a zoom',
      [
        [-3, 2],
        [2, -4],
        [5, 3],
        [-4, 6],
      ],
    ],
    [
      'a lean',
      [
        [4, 3],
        [-3, 2],
        [6, -2],
        [-5, -4],
      ],
    ],
  ] as const)('finds %s to a small part of a pixel', (_, offsets) => {
    const truth = homographyBetween(whole, moved(offsets));
    const found = registerFrames(reference, frame(homographyBetween(moved(offsets), whole)))!;
    expect(mostOff(found.homography, truth)).toBeLessThan(0.15);
    expect(found.agreement).toBeGreaterThan(0.8);
  });

  it('is not dragged along by a hand, nor misled by another exposure', () => {
    const offsets = [
      [5, 2],
      [5, 2],
      [5, 2],
      [5, 2],
    ] as const;
    const found = registerFrames(reference, frame(homographyBetween(moved(offsets), whole), { x: 250, y: 190 }, 0.85))!;
    expect(mostOff(found.homography, homographyBetween(whole, moved(offsets)))).toBeLessThan(0.3);
  });

  it('does not agree with a picture of something else', () => {
    const random = createRandom(5);
    const other: Plane = { ...reference, data: reference.data.map(() => random.between(0, 255)) };
    expect(registerFrames(reference, other)?.agreement ?? 0).toBeLessThan(0.3);
  });

  it('says nothing of paper without any ink', () => {
    const bare: Plane = { ...reference, data: new Float32Array(WIDTH * HEIGHT).fill(230) };
    expect(registerFrames(bare, bare)).toBeNull();
  });
});
