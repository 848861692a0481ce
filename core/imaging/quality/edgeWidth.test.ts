import { createRandom } from '../../../demo/random';
import { wholePicture } from '../geometry/quad';
import { boxBlur } from '../raster/boxBlur';
import type { PixelImage } from '../raster/pixelImage';
import { measureEdgeWidth } from './edgeWidth';

const WIDTH = 1400;
const HEIGHT = 1300;
const PAGE = wholePicture(WIDTH, HEIGHT);

/** Short words on paper, blurred by boxes of that radius along rows, columns or both. */
function written(radius: number, along: 'rows' | 'columns' | 'both' = 'both', noise = 0): PixelImage {
  const random = createRandom(3);
  let plane: Float32Array = new Float32Array(WIDTH * HEIGHT).fill(225);
  for (let y = 20; y < HEIGHT - 20; y += 24)
    for (let x = 20; x < WIDTH - 20; x += random.whole(14, 40))
      for (let j = 0; j < 9; j++) plane.fill(45, (y + j) * WIDTH + x, (y + j) * WIDTH + x + 6);
  if (radius > 0) plane = boxBlur(plane, WIDTH, HEIGHT, { radius, passes: 2, along });
  return {
    width: WIDTH,
    height: HEIGHT,
    channels: 1,
    data: Uint8ClampedArray.from(plane, (v) => v + noise * random.gauss()),
  };
}

describe('measureEdgeWidth', () => {
  it('grows with blur', () => {
    const widths = [0, 1, 2].map((radius) => measureEdgeWidth(written(radius), PAGE)!);
    expect(widths[0]).toBeLessThan(2);
    expect(widths[1]).toBeGreaterThan(widths[0]! + 0.8);
    expect(widths[2]).toBeGreaterThan(widths[1]! + 0.8);
  });

  it('is that of the worse direction where a hand slipped one way', () => {
    const sharp = measureEdgeWidth(written(0), PAGE)!;
    for (const along of ['rows', 'columns'] as const)
      expect(measureEdgeWidth(written(2, along), PAGE)!).toBeGreaterThan(sharp + 1.5);
  });

  it('is little changed by noise', () => {
    expect(Math.abs(measureEdgeWidth(written(1, 'both', 4), PAGE)! - measureEdgeWidth(written(1), PAGE)!)).toBeLessThan(
      0.5,
    );
  });

  it('is unknown on bare paper, however grainy', () => {
    const random = createRandom(9);
    const bare: PixelImage = {
      width: WIDTH,
      height: HEIGHT,
      channels: 1,
      data: Uint8ClampedArray.from({ length: WIDTH * HEIGHT }, () => 220 + 4 * random.gauss()),
    };
    expect(measureEdgeWidth(bare, PAGE)).toBeNull();
  });
});
