import { itInWorkspace } from '../kernels/itInWorkspace';
import { ALL_STRAIGHT } from '../geometry/bentOutline';
import type { Quad } from '../geometry/quad';
import { createPixelImage } from '../raster/pixelImage';
import { smoothPicture, toColourPicture, type ColourPicture } from './colourPicture';
import { extendToFarEdge } from './extendToFarEdge';
import type { PageSegmentation } from './pageNetwork';
import type { SegmentedSearch } from './sideSearch';

const { it, ws } = itInWorkspace();

const WIDTH = 300;
const HEIGHT = 400;
const PAGE = { left: 60, top: 40, right: 240, bottom: 330 };
const DESK = 110;
const PAPER = 216;
const silent: PageSegmentation = {
  width: 75,
  height: 100,
  page: new Float32Array(7500),
  pageArea: 0,
  edge: new Float32Array(7500),
};
const free = [false, false, false, false];

function picture(lightness: (x: number, y: number) => number): ColourPicture {
  const image = createPixelImage(WIDTH, HEIGHT, 1);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) image.data[y * WIDTH + x] = lightness(x + 0.5, y + 0.5);
  return smoothPicture(toColourPicture(image, ws()), ws());
}

const onPage = (x: number, y: number): boolean => x > PAGE.left && x < PAGE.right && y > PAGE.top && y < PAGE.bottom;
/** A page with a banner from `top` to `bottom`. */
const withBanner = (top: number, bottom: number, banner = 50): ColourPicture =>
  picture((x, y) => (!onPage(x, y) ? DESK : y > top && y < bottom ? banner : PAPER));
const outline = (top: number) => ({
  quad: [
    { x: PAGE.left, y: top },
    { x: PAGE.right, y: top },
    { x: PAGE.right, y: PAGE.bottom },
    { x: PAGE.left, y: PAGE.bottom },
  ] as Quad,
  bends: ALL_STRAIGHT,
  leastSupport: 0.9,
});
/** A search for a pale sheet. */
const searchIn = (
  picture: ColourPicture,
  segmentation = silent,
  fixed: readonly boolean[] = free,
): SegmentedSearch => ({
  picture,
  fixed,
  polarity: 0.5,
  segmentation,
});
const topOf = (found: { quad: Quad }): number => (found.quad[0].y + found.quad[1].y) / 2;

describe('extendToFarEdge', () => {
  for (const [where, top, bottom, banner] of [
    ['just inside the edge', 44, 72, 50],
    ['along the edge', 40, 70, 165],
  ] as const)
    it(`goes on to the paper’s edge beyond a banner ${where}`, () => {
      const found = extendToFarEdge(searchIn(withBanner(top, bottom, banner)), outline(bottom));
      expect(Math.abs(topOf(found) - PAGE.top)).toBeLessThan(1.5);
      expect(found.quad[2].y).toBeCloseTo(PAGE.bottom, 0);
    });

  it('leaves an outline whose sides end at its corners, and sides that must stay', () => {
    const right = outline(PAGE.top);
    expect(extendToFarEdge(searchIn(withBanner(44, 72)), right)).toBe(right);
    const wrong = outline(72);
    expect(extendToFarEdge(searchIn(withBanner(44, 72), silent, [true, false, false, false]), wrong)).toBe(wrong);
  });

  it('does not go on along what is longer than a banner, or where the network sees the page end', () => {
    // the page lies on a strip of its own width
    const strip = picture((x, y) => (onPage(x, y) ? PAPER : x > PAGE.left && x < PAGE.right ? 60 : DESK));
    const right = outline(PAGE.top);
    expect(extendToFarEdge(searchIn(strip), right)).toBe(right);
    const rows = (of: (y: number) => number): Float32Array =>
      Float32Array.from({ length: 7500 }, (_, i) => of(4 * Math.floor(i / 75) + 2));
    const ending: PageSegmentation = {
      ...silent,
      page: rows((y) => (y > 72 && y < PAGE.bottom ? 1 : 0)),
      edge: rows((y) => (Math.abs(y - 72) < 5 ? 1 : 0)),
    };
    const sure = outline(72);
    expect(extendToFarEdge(searchIn(withBanner(44, 72), ending), sure)).toBe(sure);
  });
});
