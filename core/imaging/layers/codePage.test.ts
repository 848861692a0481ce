import { jpegCodec } from '../../../platform/node/jpegCodec';
import sharp from 'sharp';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { codePage } from './codePage';
import { bytesOf, codingAt, FINEST } from './codedPage';
import { jpegAsLike } from './jpegAsLike';
import { greyOf, layerSimilarity, similarityOf } from './layerSimilarity';
import { inkRows } from './inkRows';
import { seenOf } from './inkMasks';
import { separateLayers } from './separateLayers';

/** A page with writing in two inks, drawn by a library that blurs edges as a lens does. */
async function written(extra = ''): Promise<PixelImage> {
  const lines = Array.from(
    { length: 12 },
    (_, i) =>
      `<text x="60" y="${110 + i * 60}" font-family="DejaVu Sans, sans-serif" font-size="30" fill="${i % 3 === 1 ? '#a3243b' : '#1f4f9e'}">height ${i} above the datum</text><path d="M60 ${122 + i * 60} h${300 + 20 * i}" stroke="#202020" stroke-width="2.4"/>`,
  ).join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="700" height="990"><rect width="700" height="990" fill="#fff"/>${lines}${extra}</svg>`;
  const { data, info } = await sharp(Buffer.from(svg))
    .flatten({ background: '#fff' })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const page = createPixelImage(info.width, info.height, 3);
  page.data.set(data);
  return page;
}
const PICTURE =
  '<defs><linearGradient id="g"><stop offset="0" stop-color="#000"/><stop offset="0.5" stop-color="#7ac"/><stop offset="1" stop-color="#322"/></linearGradient></defs><rect x="120" y="300" width="420" height="330" fill="url(#g)"/>';

describe('separateLayers', () => {
  it('finds the inks by colour and paints the page as it was', async () => {
    const page = await written();
    const layers = separateLayers(page, 2);
    expect(layers.background).toBeNull();
    expect(layers.pictures).toEqual([]);
    // the last masks are the bodies of strokes
    const { inks } = layers;
    const near = (r: number, g: number, b: number): boolean =>
      inks.some((ink) => Math.hypot(ink[0] - r, ink[1] - g, ink[2] - b) < 45);
    expect([near(0x1f, 0x4f, 0x9e), near(0xa3, 0x24, 0x3b), near(0x20, 0x20, 0x20)]).toEqual([true, true, true]);
    expect(layerSimilarity(page, layers).ink).toBeGreaterThan(0.95);
  });

  it('keeps the pale rules of squared paper whole, and takes no pale tint for ink', async () => {
    const page = await written();
    const [left, right] = [40, page.width - 40];
    for (const y of [75, 135, 195])
      for (let x = left; x < right; x++) {
        page.data.set([228, 234, 240], (y * page.width + x) * 3);
        page.data.set([236, 240, 244], ((y + 1) * page.width + x) * 3);
      }
    // a pale box
    for (let y = 860; y < 960; y++)
      for (let x = 60; x < 640; x++) page.data.set([234, 234, 234], (y * page.width + x) * 3);
    const ink = new Set(separateLayers(page, 2).inkPixels);
    for (const y of [75, 135, 195]) {
      let painted = 0;
      for (let x = left; x < right; x++) if (ink.has(y * page.width + x)) painted++;
      expect(painted / (right - left)).toBeGreaterThan(0.98);
    }
    expect(ink.has(910 * page.width + 350)).toBe(false);
  });

  it('leaves a blank page blank, tint and all', () => {
    const blank = createPixelImage(300, 400, 3);
    blank.data.fill(255);
    expect(separateLayers(blank, 2)).toMatchObject({ background: null, inks: [], pictures: [] });
    blank.data.fill(240);
    expect(separateLayers(blank, 2).background?.data.every((level) => level === 240)).toBe(true);
  });

  it('keeps a picture as a picture, and no ink of it', async () => {
    const page = await written(PICTURE);
    const { pictures, inkPixels } = separateLayers(page, 2);
    expect(pictures).toHaveLength(1);
    const { box } = pictures[0]!;
    expect(box.x).toBeLessThanOrEqual(120);
    expect(box.x + box.width).toBeGreaterThanOrEqual(540);
    expect(inkPixels).not.toContain(450 * page.width + 330);
  });

  it('takes a filled box with white print for ink of its own: black stays black, and navy navy', async () => {
    const page = await written(
      '<rect x="60" y="850" width="580" height="110" fill="#223147"/><text x="80" y="915" font-family="DejaVu Sans, sans-serif" font-size="34" fill="#fff">Shore log sheet</text>',
    );
    const layers = separateLayers(page, 2);
    expect(layers.pictures).toEqual([]);
    const seen = new Map([...layers.inkPixels].map((i, k) => [i, layers.inks[seenOf(layers.paintedIn[k]!)]!] as const));
    const box = seen.get(870 * page.width + 600)!;
    expect(Math.hypot(box[0] - 0x22, box[1] - 0x31, box[2] - 0x47)).toBeLessThan(8);
    const rule = seen.get(122 * page.width + 200)!;
    expect(Math.max(...rule) - Math.min(...rule)).toBeLessThan(8);
    expect(Math.max(...rule)).toBeLessThan(90);
    // the middle of a white letter is paper
    const white = [...Array(400).keys()].filter((x) => !seen.has(905 * page.width + 80 + x));
    expect(white.length).toBeGreaterThan(40);
    expect(layerSimilarity(page, layers).ink).toBeGreaterThan(0.95);
  });

  it('codes a box full of grain as a picture, where ink of one tone would not be like it', async () => {
    const page = await written('<rect x="60" y="600" width="580" height="370" fill="#404040"/>');
    let seed = 7;
    for (let y = 600; y < 970; y++)
      for (let i = (y * page.width + 60) * 3; i < (y * page.width + 640) * 3; i++)
        page.data[i] = 20 + 110 * ((seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647);
    expect(separateLayers(page, 2).pictures).toEqual([]);
    const coded = await codePage(page, 'daylight', FINEST, jpegCodec);
    expect(coded).toMatchObject({ coding: 'layers', pictures: [expect.anything()] });
  });

  it('does not lose faint pencil', async () => {
    const page = await written(
      '<path d="M80 860 C200 800 300 940 500 860" stroke="#bdbdbd" stroke-width="3" fill="none"/>',
    );
    const { inks, inkPixels, paintedIn } = separateLayers(page, 2);
    const pencil = inks.map((colour) => Math.min(...colour) > 150 && Math.max(...colour) - Math.min(...colour) < 25);
    const covered = [...inkPixels].filter(
      (i, k) => i >= 821 * page.width && pencil[seenOf(paintedIn[k]!)] === true,
    ).length;
    expect(covered).toBeGreaterThan(700);
  });
});

describe('codePage', () => {
  it('takes a third of a JPEG at most for writing, and less with hard edges', async () => {
    const page = await written();
    const jpeg = (await jpegCodec.encode(page, 0.75)).length;
    const soft = await codePage(page, 'daylight', FINEST, jpegCodec);
    const hard = await codePage(page, 'daylight', codingAt(0.75, 'layers'), jpegCodec);
    expect([soft.coding, hard.coding]).toEqual(['layers', 'layers']);
    expect(bytesOf(soft)).toBeLessThan(0.35 * jpeg);
    expect(bytesOf(hard)).toBeLessThan(0.65 * bytesOf(soft));
  });

  it('gives what layers would harm as one JPEG, and two levels as JBIG2', async () => {
    const noise = createPixelImage(400, 500, 3);
    let seed = 7;
    for (let i = 0; i < noise.data.length; i++) noise.data[i] = (seed = (seed * 48_271) % 2_147_483_647) & 0xff;
    expect((await codePage(noise, 'daylight', FINEST, jpegCodec)).coding).toBe('jpeg');
    expect((await codePage(await written(), 'asshot', FINEST, jpegCodec)).coding).toBe('jpeg');
    expect((await codePage(createPixelImage(400, 500, 1), 'press', FINEST, jpegCodec)).coding).toBe('jbig2');
  });
});

describe('an ink’s mask', () => {
  it('has the same rows in whatever order they are asked for', () => {
    const [width, height] = [61, 40];
    const page = createPixelImage(width, height, 3);
    page.data.fill(255);
    for (let y = 4; y < 36; y++)
      for (let x = 6; x < 50; x++)
        if ((x * 3 + y) % 11 < 5 && y % 9 < 6) page.data.fill(30, 3 * (y * width + x), 3 * (y * width + x) + 3);
    const layers = separateLayers(page, 1);
    expect(layers.inks.length).toBeGreaterThan(0);
    const { height: rows, width: columns, row } = inkRows(layers, 0, width);
    const read = (y: number): string => {
      const into = new Uint8Array(columns);
      row(y, into, Int32Array.of(columns, -1));
      return into.join('');
    };
    const down = Array.from({ length: rows }, (_, y) => read(y));
    const up = Array.from({ length: rows }, (_, y) => read(rows - 1 - y)).reverse();
    expect(up).toEqual(down);
    expect(down.some((each) => each.includes('1'))).toBe(true);
  });
});

describe('jpegAsLike', () => {
  it('finds the least quality that is as like the page as layers, and none where no JPEG is as small', async () => {
    const page = await written(PICTURE);
    const sure = page.width * page.height;
    const rough = await jpegAsLike(page, { ink: 0.9, all: 0.5 }, sure, jpegCodec);
    const fine = await jpegAsLike(page, { ink: 0.985, all: 0.5 }, sure, jpegCodec);
    expect(rough).toBeGreaterThan(0);
    expect(fine).toBeGreaterThan(rough!);
    // it must be as like where nothing is written, too
    expect(await jpegAsLike(page, { ink: 0.9, all: 0.999 }, sure, jpegCodec)).not.toBe(rough);
    const before = greyOf(page);
    const after = greyOf(await jpegCodec.decode(await jpegCodec.encode(page, fine!)));
    expect(similarityOf(before, after, page.width, page.height).ink).toBeGreaterThan(0.97);
    // ink that no band shows is not given up
    const between = createPixelImage(400, 500, 3);
    between.data.fill(255);
    for (let y = 12; y < 40; y++)
      for (let x = 20; x < 380; x++) if (x % 7 < 3) between.data.set([20, 20, 20], (y * 400 + x) * 3);
    expect(await jpegAsLike(between, { ink: 0.9, all: 0.5 }, 200_000, jpegCodec)).toBeNull();
    const low = { ...between, height: 100, data: between.data.slice(0, 400 * 100 * 3) };
    expect(await jpegAsLike(low, { ink: 0.99, all: 0.5 }, 40_000, jpegCodec)).toBeGreaterThan(0.17);
    expect(await jpegAsLike(page, { ink: 0.9, all: 0.5 }, 0.02 * sure, jpegCodec)).toBeNull();
    expect(await jpegAsLike(page, { ink: 0.9, all: 0.5 }, 0.001 * sure, jpegCodec)).toBeNull();
  });
});
