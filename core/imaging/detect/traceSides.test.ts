import { itInWorkspace } from '../kernels/itInWorkspace';
import { ALL_STRAIGHT, pointOnBentSide, SIDE_DETAIL } from '../geometry/bentOutline';
import type { Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { smoothPicture, toColourPicture, type ColourPicture } from './colourPicture';
import type { PageSegmentation } from './pageNetwork';
import type { SegmentedSearch } from './sideSearch';
import { traceSides } from './traceSides';

const { it, ws } = itInWorkspace();

const WIDTH = 420;
const HEIGHT = 560;
const SCALE = 4;

/** A pale page on a dark desk, each pixel the mean of 16 places. */
function pictureOf(onPage: (x: number, y: number) => boolean): ColourPicture {
  const data = new Uint8ClampedArray(WIDTH * HEIGHT);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      let inside = 0;
      for (let k = 0; k < 16; k++) if (onPage(x + ((k & 3) + 0.5) / 4, y + ((k >> 2) + 0.5) / 4)) inside++;
      data[y * WIDTH + x] = 80 + (135 * inside) / 16;
    }
  const image: PixelImage = { width: WIDTH, height: HEIGHT, channels: 1, data };
  return smoothPicture(toColourPicture(image, ws()), ws());
}

/** What a network that sees the page exactly says of it. */
function segmentationOf(onPage: (x: number, y: number) => boolean): PageSegmentation {
  const [width, height] = [WIDTH / SCALE, HEIGHT / SCALE];
  const at = (i: number): [number, number] => [SCALE * ((i % width) + 0.5), SCALE * (Math.floor(i / width) + 0.5)];
  const page = Float32Array.from({ length: width * height }, (_, i) => (onPage(...at(i)) ? 1 : 0));
  const edge = page.map((_, i) => {
    const [x, y] = at(i);
    const around = [onPage(x - SCALE, y), onPage(x + SCALE, y), onPage(x, y - SCALE), onPage(x, y + SCALE)];
    return around.includes(true) && around.includes(false) ? 1 : 0;
  });
  return { width, height, page, pageArea: page.reduce((p, q) => p + q), edge };
}

const searchOn = (onPage: (x: number, y: number) => boolean): SegmentedSearch => ({
  picture: pictureOf(onPage),
  fixed: [false, false, false, false],
  polarity: 1,
  segmentation: segmentationOf(onPage),
});

const quad: Quad = [
  { x: 60, y: 80 },
  { x: 360, y: 80 },
  { x: 360, y: 500 },
  { x: 60, y: 500 },
];
const straight = { quad, bends: ALL_STRAIGHT };

describe('traceSides', () => {
  it('follows waves that no quartic does', () => {
    const top = (x: number): number => 80 + 7 * Math.sin((6 * Math.PI * (x - 60)) / 300);
    const traced = traceSides(
      searchOn((x, y) => x > 60 && x < 360 && y < 500 && y > top(x)),
      straight,
    );
    expect(traced.bends[0]).toHaveLength(SIDE_DETAIL);
    for (let t = 0.03; t < 1; t += 0.02) {
      const p = pointOnBentSide(traced.quad[0], traced.quad[1], traced.bends[0], t);
      expect(Math.abs(p.y - top(p.x))).toBeLessThan(1.2);
    }
    traced.quad.forEach((corner, c) =>
      expect(Math.hypot(corner.x - quad[c]!.x, corner.y - quad[c]!.y)).toBeLessThan(2),
    );
  });

  it('follows a fold to within a pixel of its point', () => {
    const right = (y: number): number => 360 - 12 * (1 - Math.abs(y - 240) / 160);
    const onPage = (x: number, y: number): boolean =>
      x > 60 && y > 80 && y < 500 && x < (y < 400 ? Math.min(360, right(y)) : 360);
    const traced = traceSides(searchOn(onPage), straight);
    for (let t = 0.03; t < 1; t += 0.02) {
      const p = pointOnBentSide(traced.quad[1], traced.quad[2], traced.bends[1], t);
      expect(Math.abs(p.x - (p.y < 400 ? Math.min(360, right(p.y)) : 360))).toBeLessThan(1.3);
    }
  });

  it('leaves an outline with straight sides, and sides that must stay, as they are', () => {
    const onPage = (x: number, y: number): boolean => x > 60 && x < 360 && y > 80 && y < 500;
    expect(traceSides(searchOn(onPage), straight)).toBe(straight);
    const wavy = searchOn((x, y) => x > 60 && x < 360 && y < 500 && y > 80 + 7 * Math.sin(x / 16));
    expect(traceSides({ ...wavy, fixed: [true, true, true, true] }, straight)).toBe(straight);
  });

  it('does not move a corner along something that lies beside it', () => {
    // a strip of paper touches the corner and runs on along the line of the top side, a little lower
    const onPage = (x: number, y: number): boolean => x > 60 && x < 360 && y > 80 && y < 500;
    const strip = (x: number, y: number): boolean => x > 60 && x < 130 && y > 80 - 0.12 * (130 - x) && y < 82;
    const search = { ...searchOn((x, y) => onPage(x, y) || strip(x, y)), segmentation: segmentationOf(onPage) };
    const traced = traceSides(search, straight);
    expect(Math.hypot(traced.quad[0].x - 60, traced.quad[0].y - 80)).toBeLessThan(2.5);
  });
});
