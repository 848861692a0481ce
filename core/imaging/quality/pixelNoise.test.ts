import { createRandom } from '../../../demo/random';
import { wholePicture } from '../geometry/quad';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { measurePixelNoise } from './pixelNoise';

const [WIDTH, HEIGHT] = [420, 560];
const PAGE = wholePicture(WIDTH, HEIGHT);

function paper(levelAt: (x: number, y: number) => number): PixelImage {
  const image = createPixelImage(WIDTH, HEIGHT, 3);
  for (let i = 0; i < WIDTH * HEIGHT; i++) image.data.fill(levelAt(i % WIDTH, Math.floor(i / WIDTH)), 3 * i, 3 * i + 3);
  return image;
}

describe('measurePixelNoise', () => {
  it.each([2, 4, 8])(
    'measures how pixels scatter, in light that falls off and beside print (%i levels)',
    (deviation) => {
      const random = createRandom(deviation);
      const noisy = paper((x, y) => {
        const print = y % 40 < 12 && x % 9 < 4 ? 120 : 0;
        return 215 - 0.05 * x - print + deviation * random.gauss();
      });
      expect(measurePixelNoise(noisy, PAGE)).toBeGreaterThan(0.8 * deviation);
      expect(measurePixelNoise(noisy, PAGE)).toBeLessThan(1.25 * deviation);
    },
  );

  it('takes texture that is wider than a pixel for none', () => {
    const tooth = paper((x, y) => 205 + 9 * Math.sin(x / 4) * Math.sin(y / 5));
    expect(measurePixelNoise(tooth, PAGE)).toBeLessThan(0.6);
  });

  it('says 0 where nothing of the page is in the picture', () => {
    const beyond = wholePicture(50, 50).map(({ x, y }) => ({ x: x + 2000, y })) as unknown as typeof PAGE;
    expect(
      measurePixelNoise(
        paper(() => 200),
        beyond,
      ),
    ).toBe(0);
  });
});
