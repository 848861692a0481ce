import { createPixelImage, type PixelImage } from '../../imaging/raster/pixelImage';
import { encodedToRead, pageToRead } from './pageToRead';

const [WIDTH, HEIGHT] = [600, 800];
const BOX = { x: 60, y: 48, width: 480, height: 100 };
const INK = [40, 42, 90];

/** White paper with some black strokes and a filled box; white bars stand in it as letters do. */
function sheet(ink: readonly number[]): PixelImage {
  const page = createPixelImage(WIDTH, HEIGHT, 3);
  page.data.fill(255);
  const paint = (x: number, y: number, width: number, height: number, colour: readonly number[]): void => {
    for (let v = y; v < y + height; v++) for (let u = x; u < x + width; u++) page.data.set(colour, 3 * (v * WIDTH + u));
  };
  paint(BOX.x, BOX.y, BOX.width, BOX.height, ink);
  for (let x = 100; x < 480; x += 22) paint(x, 80, 5, 36, [255, 255, 255]);
  for (let x = 80; x < 500; x += 16) paint(x, 300, 4, 20, [30, 30, 30]);
  return page;
}

describe('a page to read', () => {
  it('has white print in a dark box as a picture of its own, dark on white, and where that is', () => {
    const { page, boxes } = pageToRead(sheet(INK));
    expect([page.width, page.height, page.channels]).toEqual([WIDTH, HEIGHT, 1]);
    expect(boxes).toHaveLength(1);
    const { picture, at } = boxes[0]!;
    expect([picture.width, picture.height]).toEqual([at.width, at.height]);
    const onPage = (x: number, y: number): number => picture.data[(y - at.y) * picture.width + x - at.x]!;
    // a letter, the box beside it, and nothing of the page around the box
    expect(onPage(102, 90)).toBeLessThan(10);
    expect(onPage(110, 90)).toBeGreaterThan(190);
    expect(picture.data.slice(0, 5 * picture.width).every((level) => level === 255)).toBe(true);
    expect(at.x).toBeGreaterThan(BOX.x - 12);
    expect(at.x + at.width).toBeLessThan(BOX.x + BOX.width + 12);
  });

  it('is left as it is: grey, with what is printed in pale boxes as it was', () => {
    const pale = sheet([200, 210, 230]);
    const before = pale.data.slice();
    const { page, boxes } = pageToRead(pale);
    expect(boxes).toHaveLength(0);
    expect(pale.data).toEqual(before);
    expect(page.data[90 * WIDTH + 110]).toBeGreaterThan(190);
  });

  it('is encoded with all its boxes', async () => {
    const sizes = await encodedToRead(pageToRead(sheet(INK)), ({ width, height }) => Promise.resolve([width, height]));
    expect(sizes.page).toEqual([WIDTH, HEIGHT]);
    expect(sizes.boxes.map(({ picture, at }) => [picture, [at.width, at.height]])).toEqual([
      [sizes.boxes[0]!.picture, sizes.boxes[0]!.picture],
    ]);
  });
});
