import { createCanvas } from '@napi-rs/canvas';
import { pixelImageFrom, type PixelImage } from '../raster/pixelImage';
import { wholePicture } from '../geometry/quad';
import { followLines } from './followLines';

const WIDTH = 700;
const HEIGHT = 1000;

/** A page of dashes for words, whose lines follow `course`: how far down they lie at a share of the width. */
function written(course: (u: number, v: number) => number, lines = 30): PixelImage {
  const canvas = createCanvas(WIDTH, HEIGHT);
  const ctx = canvas.getContext('2d');
  ctx.fillStyle = '#f4f0e6';
  ctx.fillRect(0, 0, WIDTH, HEIGHT);
  ctx.fillStyle = '#222';
  for (let k = 0; k < lines; k++) {
    const v = 0.08 + (0.84 * k) / 30;
    for (let x = 50 + ((k * 13) % 40); x < WIDTH - 50; x++) {
      if ((x + k * 17) % 23 > 17) continue;
      ctx.fillRect(x, v * HEIGHT + course(x / WIDTH, v), 1, 5 + ((x * 7 + k) % 3));
    }
  }
  return pixelImageFrom(WIDTH, HEIGHT, 4, new Uint8ClampedArray(ctx.getImageData(0, 0, WIDTH, HEIGHT).data));
}

describe('followLines', () => {
  it('bends head and foot as the lines of writing do', () => {
    const { bends } = followLines(
      written((u, v) => 24 * v * 4 * u * (1 - u)),
      wholePicture(WIDTH, HEIGHT),
    )!;
    // lines sag towards the foot: the foot bulges out by their sag there, the head hardly
    expect(bends[2][1]).toBeGreaterThan(0.024);
    expect(bends[2][1]).toBeLessThan(0.043);
    expect(Math.abs(bends[0][1]!)).toBeLessThan(0.008);
    expect([bends[1], bends[3]]).toEqual([
      [0, 0, 0],
      [0, 0, 0],
    ]);
  });

  it('turns the outline with lines that all tilt', () => {
    const tilt = 0.05;
    const { corners } = followLines(
      written((u) => (u - 0.5) * WIDTH * tilt),
      wholePicture(WIDTH, HEIGHT),
    )!;
    expect((corners[1].y - corners[0].y) / (corners[1].x - corners[0].x)).toBeCloseTo(tilt, 2);
    expect((corners[0].x - corners[3].x) / (corners[3].y - corners[0].y)).toBeCloseTo(tilt, 2);
  });

  it('leaves level lines alone, and pages without lines', () => {
    expect(
      followLines(
        written(() => 0),
        wholePicture(WIDTH, HEIGHT),
      ),
    ).toBeNull();
    expect(
      followLines(
        written(() => 0, 0),
        wholePicture(WIDTH, HEIGHT),
      ),
    ).toBeNull();
  });
});
