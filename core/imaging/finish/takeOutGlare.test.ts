import { estimatePaperField } from '../light/paperField';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { decodeSrgb, encodeSrgb } from '../raster/transferCurve';
import { takeOutGlare } from './takeOutGlare';

const WIDTH = 700;
const HEIGHT = 990;
type Colour = readonly [number, number, number];
const INK: Colour = [0.02, 0.05, 0.2];

const isInk = (x: number, y: number): boolean => y % 24 < 4 && x > 60 && x < 640 && x % 20 < 15;
/** Lines of blue writing under a light, with what a lamp adds; linear. */
function page(light: (x: number, y: number) => number, added: (x: number, y: number) => number = () => 0): PixelImage {
  const image = createPixelImage(WIDTH, HEIGHT, 3);
  for (let y = 0, at = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      for (let c = 0; c < 3; c++, at++) {
        const sent = light(x, y) * (isInk(x, y) ? INK[c]! : 1) + added(x, y);
        image.data[at] = 255 * encodeSrgb(Math.min(1, sent));
      }
  return image;
}
const spot =
  (peak: number) =>
  (x: number, y: number): number =>
    peak * Math.exp(-(((x - 380) / 90) ** 2 + ((y - 480) / 110) ** 2) / 2);
const even = (): number => 0.55;
const clearedOf = (image: PixelImage) => takeOutGlare(image, estimatePaperField(image));

/** What ink sends back beside the paper's light there, on the mean, for red, green and blue; linear. */
function inkBeside({ page: { data }, field }: ReturnType<typeof clearedOf>, within = 60): number[] {
  const sums = [0, 0, 0];
  let count = 0;
  for (let y = 480 - within; y < 480 + within; y++)
    for (let x = 380 - within; x < 380 + within; x++) {
      if (!isInk(x - 2, y - 1) || !isInk(x + 2, y + 1)) continue;
      const cell = Math.floor((y * field.height) / HEIGHT) * field.width + Math.floor((x * field.width) / WIDTH);
      for (let c = 0; c < 3; c++)
        sums[c]! += decodeSrgb(data[3 * (y * WIDTH + x) + c]! / 255) / decodeSrgb(field.planes[c]![cell]! / 255);
      count++;
    }
  return sums.map((sum) => sum / count);
}

describe('taking a reflection off a page', () => {
  it('gives ink its darkness and its hue back where the paper is not burnt out', () => {
    const veiled = page(even, spot(0.4));
    expect(inkBeside({ page: veiled, field: estimatePaperField(veiled) })[1]).toBeGreaterThan(0.3);
    const [red, green, blue] = inkBeside(clearedOf(veiled));
    expect(green).toBeLessThan(0.1);
    expect(blue! - red!).toBeGreaterThan(0.1);
  });

  it('makes ink that is still seen on burnt-out paper as dark as its neighbours, and no darker', () => {
    const green = inkBeside(clearedOf(page(even, spot(0.75))))[1]!;
    expect(green).toBeLessThan(0.2);
    expect(green).toBeGreaterThan(0.01);
  });

  it('draws nothing where ink is burnt out as well', () => {
    const { page: clear, field } = clearedOf(page(even, spot(2)));
    const cell = Math.floor((480 * field.height) / HEIGHT) * field.width + Math.floor((380 * field.width) / WIDTH);
    for (let x = 360; x < 400; x++)
      expect(clear.data[3 * (480 * WIDTH + x) + 1]! / field.planes[1]![cell]!).toBeGreaterThan(0.97);
  });

  it.each<[string, PixelImage]>([
    ['under even light', page(even)],
    ['lit by a lamp, which makes no ink paler', page((x, y) => 0.55 + spot(0.6)(x, y))],
    [
      'that ends before its photo does',
      page(
        (x, y) => (x + y < 260 ? 1 : 0.55),
        (x, y) => (x + y < 260 ? 1 : 0),
      ),
    ],
    ['of one tone', page(() => 0.9)],
  ])('leaves a page alone %s', (_, image) => expect(clearedOf(image).page).toBe(image));
});
