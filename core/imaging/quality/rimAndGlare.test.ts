import { wholePicture, type Quad } from '../geometry/quad';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { findGlare, glareBox } from './glare';
import { findThumbs, isSkin } from './thumb';

const WIDTH = 600;
const HEIGHT = 800;
type Colour = readonly [number, number, number];
const PAPER: Colour = [208, 204, 196];

function picture(colourAt: (x: number, y: number) => Colour): PixelImage {
  const image = createPixelImage(WIDTH, HEIGHT, 3);
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) image.data.set(colourAt(x, y), (y * WIDTH + x) * 3);
  return image;
}
const PAGE = wholePicture(WIDTH, HEIGHT);
const TURNED: Quad = [PAGE[1], PAGE[2], PAGE[3], PAGE[0]];
const finger = (x: number, y: number): boolean => x > 500 && Math.abs(y - 400) < 45;

describe('findThumbs', () => {
  it.each([
    ['light', [214, 160, 128]],
    ['dark', [112, 72, 52]],
  ] as const)('sees a finger of %s skin on the side it reaches in from, however the page is turned', (_, skin) => {
    const photo = picture((x, y) => (finger(x, y) ? skin : PAPER));
    expect(findThumbs(photo, PAGE)).toEqual([false, true, false, false]);
    expect(findThumbs(photo, TURNED)).toEqual([true, false, false, false]);
  });

  it('judges skin beside the paper, so that a warm lamp makes none and hides none', () => {
    const warm = ([r, g, b]: Colour): Colour => [Math.min(255, r * 1.15), g * 0.93, b * 0.66];
    expect(
      findThumbs(
        picture(() => warm(PAPER)),
        PAGE,
      ),
    ).toEqual([false, false, false, false]);
    expect(
      findThumbs(
        picture((x, y) => warm(finger(x, y) ? [190, 138, 108] : PAPER)),
        PAGE,
      )[1],
    ).toBe(true);
  });

  it('takes neither a brown drawing in the middle nor a sliver of desk for a finger', () => {
    expect(
      findThumbs(
        picture((x, y) => (Math.hypot(x - 300, y - 400) < 120 ? [170, 110, 80] : PAPER)),
        PAGE,
      ),
    ).toEqual([false, false, false, false]);
    expect(
      findThumbs(
        picture((x) => (x > WIDTH - 8 ? [150, 100, 70] : PAPER)),
        PAGE,
      ),
    ).toEqual([false, false, false, false]);
  });

  it('takes paper that browns towards its rim for none: a finger ends at a line', () => {
    const browned = picture((x, y) => {
      const rim = Math.max(0, 1 - Math.hypot(x - 600, y - 400) / 220);
      return [PAPER[0] - 40 * rim, PAPER[1] - 90 * rim, PAPER[2] - 130 * rim];
    });
    expect(findThumbs(browned, PAGE)).toEqual([false, false, false, false]);
  });

  it('says nothing of a grey picture', () => {
    expect(
      findThumbs(
        { width: WIDTH, height: HEIGHT, channels: 1, data: new Uint8ClampedArray(WIDTH * HEIGHT).fill(120) },
        PAGE,
      ),
    ).toEqual([false, false, false, false]);
  });

  it('knows skin from ink and from paper', () => {
    expect(isSkin([200, 150, 120], [230, 228, 224])).toBe(true);
    expect(isSkin([40, 60, 160], [230, 228, 224])).toBe(false);
    expect(isSkin([230, 228, 224], [230, 228, 224])).toBe(false);
  });
});

describe('findGlare', () => {
  const lit = (burnt: (x: number, y: number) => boolean, rest: Colour = PAPER): PixelImage =>
    picture((x, y) => (burnt(x, y) ? [255, 255, 255] : rest));

  it('finds the middle of a reflection', () => {
    const at = findGlare(
      lit((x, y) => Math.hypot(x - 420, y - 250) < 90),
      PAGE,
    )!;
    expect(Math.hypot(at.x - 420, at.y - 250)).toBeLessThan(20);
  });

  it('says which part of a flat page lies under it', () => {
    const { left, top, width, height } = glareBox(lit((x, y) => Math.hypot(x - 420, y - 250) < 90))!;
    // to a cell, of which twelve make the page
    for (const [found, truth] of [
      [left, 330 / WIDTH],
      [top, 160 / HEIGHT],
      [left + width, 510 / WIDTH],
      [top + height, 340 / HEIGHT],
    ] as const)
      expect(Math.abs(found - truth)).toBeLessThan(1 / 12);
    expect(glareBox(lit(() => false))).toBeNull();
  });

  it('finds one that leaves the paper below white', () => {
    const haze = (x: number, y: number): number => 52 * Math.exp(-(((x - 200) / 70) ** 2) - ((y - 500) / 70) ** 2);
    const photo = picture((x, y) => PAPER.map((level) => level - 20 + haze(x, y)) as unknown as Colour);
    const at = findGlare(photo, PAGE)!;
    expect(Math.hypot(at.x - 200, at.y - 500)).toBeLessThan(50);
  });

  it('is none between two shadows: paper beyond them is as bright', () => {
    const shaded = picture((x, y) => {
      const shadow = (x > 90 && x < 180) || (x > 330 && x < 420) || y < 200 || (y > 420 && y < 520);
      return shadow ? [150, 148, 144] : [232, 230, 226];
    });
    expect(findGlare(shaded, PAGE)).toBeNull();
  });

  it('is none where the page is bright as a whole, or hardly a speck is burnt', () => {
    expect(
      findGlare(
        lit(() => true),
        PAGE,
      ),
    ).toBeNull();
    expect(
      findGlare(
        lit((x, y) => Math.hypot(x - 300, y - 300) < 200, [240, 238, 232]),
        PAGE,
      ),
    ).toBeNull();
    expect(
      findGlare(
        lit((x, y) => Math.hypot(x - 300, y - 300) < 12),
        PAGE,
      ),
    ).toBeNull();
  });

  it('is none where the light falls off gently, or a shadow lies across bright paper', () => {
    const level = (value: number): Colour => [value, value, value];
    const lamp = picture((x, y) => level(Math.min(254, 285 - 0.12 * Math.hypot(x - 100, y - 100))));
    const shadow = picture((x, y) => level(x + y / 6 > 200 ? 170 : 253));
    for (const photo of [lamp, shadow]) expect(findGlare(photo, PAGE)).toBeNull();
  });

  it('is only looked for on the page', () => {
    const page: Quad = [
      { x: 50, y: 50 },
      { x: 300, y: 50 },
      { x: 300, y: 750 },
      { x: 50, y: 750 },
    ];
    expect(
      findGlare(
        lit((x) => x > 400),
        page,
      ),
    ).toBeNull();
  });
});
