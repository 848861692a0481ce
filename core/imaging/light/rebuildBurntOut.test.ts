import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { rebuildBurntOut } from './rebuildBurntOut';

const WIDTH = 300;
const HEIGHT = 400;
type Colour = readonly [number, number, number];

/** A page under a lamp that gets brighter from left to right, with what the sensor cannot hold cut off. */
const seen = (lamp: Colour, reflects: (x: number, y: number) => Colour): PixelImage => {
  const page = createPixelImage(WIDTH, HEIGHT, 3);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++)
      page.data.set(
        reflects(x, y).map((share, c) => share * lamp[c]! * (0.7 + (0.5 * x) / WIDTH)),
        (y * WIDTH + x) * 3,
      );
  }
  return page;
};
const WARM: Colour = [255, 225, 170];
/** Lines half as wide as a pixel; blue where `blue`. */
const lines =
  (blue: boolean) =>
  (_x: number, y: number): Colour =>
    y % 20 !== 0 ? [1, 1, 1] : blue ? [0.58, 0.65, 0.85] : [0.55, 0.55, 0.55];
const pixel = ({ data }: PixelImage, x: number, y: number): Colour => [
  data[(y * WIDTH + x) * 3]!,
  data[(y * WIDTH + x) * 3 + 1]!,
  data[(y * WIDTH + x) * 3 + 2]!,
];
/** What is left of the paper's light at a line beside the paper next to it, channel by channel. */
const shares = (page: PixelImage, x: number): Colour =>
  pixel(page, x, 200).map((v, c) => v / pixel(page, x, 210)[c]!) as unknown as Colour;

describe('rebuildBurntOut', () => {
  it('gives black strokes no colour and blue ones their own where red is burnt out', () => {
    const black = seen(WARM, lines(false));
    const before = shares(black, 280);
    expect(before[0] - before[1]).toBeGreaterThan(0.06);
    const after = shares(rebuildBurntOut(black), 280);
    expect(Math.abs(after[0] - after[1])).toBeLessThan(0.02);
    const blue = shares(rebuildBurntOut(seen(WARM, lines(true))), 280);
    expect(Math.abs(blue[0] - 0.58)).toBeLessThan(0.02);
  });

  it('makes paper as coloured as its lamp, there and where nothing was lost', () => {
    const page = rebuildBurntOut(seen(WARM, lines(false)));
    const ratio = (x: number): number => pixel(page, x, 210)[0] / pixel(page, x, 210)[1];
    expect(Math.abs(ratio(280) - ratio(40))).toBeLessThan(0.02);
  });

  it('keeps faint red ink red where red is burnt out', () => {
    const page = rebuildBurntOut(seen(WARM, (_x, y) => (y % 20 !== 0 ? [1, 1, 1] : [0.98, 0.7, 0.7])));
    const [red, green] = shares(page, 280);
    expect(red - green).toBeGreaterThan(0.12);
  });

  it('leaves no band of colour on faint rules where first red and then green burns out', () => {
    const page = rebuildBurntOut(seen([290, 262, 190], (_x, y) => (y % 20 !== 0 ? [1, 1, 1] : [0.93, 0.93, 0.93])));
    for (const x of [60, 140, 220, 290]) {
      const [red, green, blue] = shares(page, x);
      expect(Math.max(red, green, blue) - Math.min(red, green, blue)).toBeLessThan(0.03);
    }
  });

  it('leaves a page as it is where nothing is lost, or all is, or there is no colour', () => {
    const pages = [
      seen([190, 180, 150], lines(false)),
      seen([330, 330, 330], lines(false)),
      { ...createPixelImage(WIDTH, HEIGHT, 1) },
    ];
    for (const page of pages) expect(rebuildBurntOut(page)).toBe(page);
  });

  it('never alters its input', () => {
    const page = seen(WARM, lines(true));
    const copy = page.data.slice();
    rebuildBurntOut(page);
    expect(page.data.every((v, i) => v === copy[i])).toBe(true);
  });
});
