import { createRandom } from '../../../demo/random';
import { encodeJbig2Rows } from '../jbig2/jbig2';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { findStrokes } from './findStrokes';
import { inkRows } from './inkRows';
import { layerSimilarity } from './layerSimilarity';
import { seenOf } from './inkMasks';
import type { PageLayers } from './pageLayers';
import { separateLayers, withCheaperMasks } from './separateLayers';

const [WIDTH, HEIGHT] = [500, 420];

/** Squared paper with strokes in black and blue on it, all with grain. */
function grainyPage(ruleDepth: number): PixelImage {
  const random = createRandom(5);
  const page = createPixelImage(WIDTH, HEIGHT, 3);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const ruled = Math.max(1 - Math.abs((x % 32) - 15.6), 1 - Math.abs((y % 32) - 15.3), 0);
      const away = Math.min(
        Math.abs(y - 60 - 30 * Math.sin(x / 23)),
        Math.abs(y - 210 - 18 * Math.sin(x / 11)),
        Math.abs(x - 250 - 9 * Math.sin(y / 19)),
      );
      const pen = Math.min(1, Math.max(0, 2.6 - away));
      const isBlue = y > 150 && y < 270;
      const grain = (random.next() + random.next() + random.next() - 1.5) * 16;
      const colour = isBlue ? [40, 80, 180] : [40, 40, 44];
      colour.forEach((ink, c) => {
        const paper = 255 - ruleDepth * ruled * [1, 0.7, 0.4][c]!;
        page.data[(y * WIDTH + x) * 3 + c] = paper + (ink - paper) * pen + grain;
      });
    }
  return page;
}
const bytesOf = (layers: PageLayers): number =>
  layers.inks.reduce((sum, _, ink) => sum + encodeJbig2Rows(inkRows(layers, ink, WIDTH)).length, 0);

describe('withCheaperMasks', () => {
  const page = grainyPage(26);
  const strokes = findStrokes(page);
  const layers = separateLayers(page, 2, strokes);
  const cheaper = withCheaperMasks(page, strokes.rules, layers);

  it('takes fewer bytes and looks the same', () => {
    expect(bytesOf(cheaper)).toBeLessThan(0.85 * bytesOf(layers));
    const [before, after] = [layerSimilarity(page, layers), layerSimilarity(page, cheaper)];
    expect(after.ink).toBeGreaterThan(before.ink - 0.01);
    expect(after.all).toBeGreaterThan(before.all - 0.03);
  });

  it('lists each pixel once, in order, and in masks that are there', () => {
    const { inks, inkPixels, paintedIn } = cheaper;
    expect(inkPixels.every((i, k) => k === 0 || i > inkPixels[k - 1]!)).toBe(true);
    expect(paintedIn.every((masks) => masks !== 0 && seenOf(masks) < inks.length)).toBe(true);
    const seen = new Set(paintedIn.map(seenOf));
    expect(seen.size).toBe(inks.length);
    const { x, y, width, height } = cheaper.inkBox;
    for (const i of inkPixels) {
      const [u, v] = [i % WIDTH, Math.floor(i / WIDTH)];
      expect(u >= x && u < x + width && v >= y && v < y + height).toBe(true);
    }
  });

  it('keeps pale rules whole and as strong as they were', () => {
    const faint = grainyPage(26);
    const found = findStrokes(faint);
    const made = withCheaperMasks(faint, found.rules, separateLayers(faint, 2, found));
    const seen = new Map([...made.inkPixels].map((i, k) => [i, made.inks[seenOf(made.paintedIn[k]!)]!]));
    // rows 15, 47 … and columns 15, 47 … of the page, away from its strokes and its border
    for (const line of [15, 303, 335, 367]) {
      const painted = Array.from({ length: 200 }, (_, k) => seen.has(line * WIDTH + 20 + k)).filter(Boolean);
      expect(painted.length).toBeGreaterThan(196);
      const [r = 0, , b = 0] = seen.get(line * WIDTH + 100)!;
      expect(255 - r).toBeGreaterThan(11);
      expect(255 - r).toBeLessThan(28);
      expect(b).toBeGreaterThan(r);
    }
  });

  it('leaves alone what has no ink, and the smallest pages', () => {
    for (const [width, height] of [
      [300, 200],
      [8, 8],
      [9, 9],
    ] as const) {
      const blank = createPixelImage(width, height, 3);
      blank.data.fill(255);
      if (width < 10) blank.data.fill(20, 3 * 4 * width, 3 * 5 * width);
      const own = findStrokes(blank);
      const plain = separateLayers(blank, 2, own);
      const made = withCheaperMasks(blank, own.rules, plain);
      expect(made.inkPixels).toEqual(plain.inkPixels);
      expect(made.inks).toEqual(plain.inks);
    }
  });

  it.each([
    ['a blank sheet', false],
    ['a written one', true],
  ])('keeps rules fainter than any ink on %s', (_, isWritten) => {
    const page = createPixelImage(WIDTH, HEIGHT, 3);
    page.data.fill(255);
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const i = y * WIDTH + x;
        if (x % 24 < 2 || y % 24 < 2) page.data.set([245, 247, 249], 3 * i);
        if (isWritten && y > 100 && y < 300 && (x + y) % 60 < 4) page.data.set([40, 40, 40], 3 * i);
      }
    const found = findStrokes(page);
    const made = withCheaperMasks(page, found.rules, separateLayers(page, 2, found));
    const seen = new Map([...made.inkPixels].map((i, k) => [i, made.inks[seenOf(made.paintedIn[k]!)]!]));
    const row = Array.from({ length: 300 }, (_, k) => seen.get(361 * WIDTH + 40 + k));
    expect(row.filter((ink) => ink !== undefined && ink[0] > 235).length).toBeGreaterThan(290);
  });

  it('paints nothing beside strong rules, and keeps them whole where they cross', () => {
    const random = createRandom(9);
    const page = createPixelImage(WIDTH, HEIGHT, 3);
    page.data.fill(255);
    const isRule = (at: number): boolean => at % 40 < 3;
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const lines = Number(isRule(x)) + Number(isRule(y));
        // stronger to the right: there their crossings are as deep as strokes
        const depth = lines * (34 + (30 * x) / WIDTH) + (lines > 0 ? (random.next() - 0.5) * 40 : 0);
        page.data.set([255 - depth, 255 - 0.6 * depth, 255 - 0.2 * depth], 3 * (y * WIDTH + x));
      }
    const found = findStrokes(page);
    const { inkPixels } = withCheaperMasks(page, found.rules, separateLayers(page, 2, found));
    const near = (at: number): boolean => isRule(at) || isRule(at + 1) || isRule(at + 39);
    const beside = inkPixels.filter((i) => !near(i % WIDTH) && !near(Math.floor(i / WIDTH)));
    expect(beside).toHaveLength(0);
    const ink = new Set(inkPixels);
    const row = Array.from({ length: WIDTH - 40 }, (_, k) => ink.has(201 * WIDTH + 20 + k));
    expect(row.filter((is) => !is).length).toBeLessThan(6);
  });

  it('bears a page whose only ink is grain', () => {
    const specks = createPixelImage(60, 60, 3);
    specks.data.fill(255);
    for (const i of [1500, 1501, 1561, 1560, 1562]) specks.data.fill(236, 3 * i, 3 * i + 3);
    const found = findStrokes(specks);
    const made = withCheaperMasks(specks, found.rules, separateLayers(specks, 2, found));
    expect(made.inks.length).toBeLessThanOrEqual(1);
    expect(made.inkPixels.length).toBeLessThanOrEqual(5);
  });

  it('paints grey pages as well', () => {
    const grey = createPixelImage(WIDTH, HEIGHT, 1);
    grey.data.forEach((_, i) => (grey.data[i] = page.data[3 * i + 1]!));
    const found = findStrokes(grey);
    const made = withCheaperMasks(grey, found.rules, separateLayers(grey, 2, found));
    expect(layerSimilarity(grey, made).ink).toBeGreaterThan(0.93);
  });
});
