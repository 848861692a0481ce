import sharp from 'sharp';
import { detectOutline } from '../../core/imaging/detect/detectOutline';
import { readShape } from '../../core/imaging/flatten/flattenPage';
import { findPageLines } from '../../core/imaging/flatten/findPageLines';
import { pageToPhoto, photoToPage } from '../../core/imaging/flatten/placeOnPage';
import { readingPage } from '../../core/imaging/flatten/readingPage';
import type { Quad } from '../../core/imaging/geometry/quad';
import { quarterTurnsTo, turned } from '../flatness';
import { bentSurface, BENDS } from './bentSurface';
import { shotOf } from './bends';
import { capture } from './capture';
import { chanceOf } from './chance';

describe('sheets of the second kind of camera', () => {
  it.each(BENDS)('keep their lengths when they lie in a %s', (bend) => {
    const at = bentSurface(bend, 210, 297, chanceOf(5));
    for (let k = 0; k < 40; k++) {
      const [x, y] = [5 + ((k * 37) % 195), 5 + ((k * 53) % 280)];
      for (const [dx, dy] of [
        [0.5, 0],
        [0, 0.5],
        [0.35, 0.35],
      ] as const) {
        const [p, q] = [at(x, y), at(x + dx, y + dy)];
        const length = Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]);
        expect(Math.abs(length / Math.hypot(dx, dy) - 1)).toBeLessThan(0.01);
      }
    }
  });

  // the number of the shot says how it lies: flat, curl, arch, wave, crease, letter, corner or cone
  it.each([
    [705, 0.9],
    [707, 0.7],
    [701, 0.8],
    [732, 0.6],
    [750, 0.6],
  ])('come out flat: shot %i within %d mm', async (seed, mostMm) => {
    const { paper, shot } = await shotOf(seed);
    const { widthMm: w, heightMm: h } = paper;
    const found = detectOutline(shot.image)!;
    const shape = readShape(found.quad, shot.image, { bends: found.bends });
    const corners: Quad = [shot.seenAt(0, 0), shot.seenAt(w, 0), shot.seenAt(w, h), shot.seenAt(0, h)];
    const turns = quarterTurnsTo(found.quad, corners);
    const toPage = photoToPage(shape);
    const off = paper.inkMm.map(([x, y]) => {
      const at = turned(toPage(shot.seenAt(x, y)), turns);
      return Math.hypot(at.x * w - x, at.y * h - y);
    });
    expect(off.reduce((p, q) => p + q) / off.length).toBeLessThan(mostMm);
  });

  // what is drawn on a page: rows of waves, and staves that slope
  it.each([
    ['waves', (x: number) => 2.5 * Math.sin(x / 25)],
    ['sloping staves', (x: number) => 0.05 * (x - 105)],
  ])('lie where they lay before when %s are drawn on them', async (_, course) => {
    const [w, h, scale] = [210, 297, 6];
    const rows = Array.from({ length: 24 }, (__, k) => {
      const points = Array.from({ length: 80 }, (___, i) => `${20 + 2.15 * i},${30 + 10 * k + course(20 + 2.15 * i)}`);
      return `<polyline points="${points.join(' ')}" fill="none" stroke="#333" stroke-width="0.4"/>`;
    });
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${w * scale}" height="${h * scale}" viewBox="0 0 ${w} ${h}"><rect width="${w}" height="${h}" fill="#fbfaf6"/>${rows.join('')}</svg>`;
    const { data, info } = await sharp(Buffer.from(svg)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    const chance = chanceOf(5017);
    const paper = { widthMm: w, heightMm: h, width: info.width, height: info.height, data, inkMm: [] };
    const { image } = capture(paper, bentSurface('flat', w, h, chance), chance);
    const found = detectOutline(image)!;
    const alone = readShape(found.quad, image, { bends: found.bends });
    const lines = findPageLines(readingPage(image, alone), alone);
    const [one, other] = [alone, readShape(found.quad, image, { bends: found.bends, lines })].map(pageToPhoto);
    for (const u of [0.1, 0.5, 0.9])
      for (const v of [0.1, 0.5, 0.9]) {
        const [p, q] = [one!(u, v), other!(u, v)];
        expect((Math.hypot(p.x - q.x, p.y - q.y) * h) / alone.size.height).toBeLessThan(0.4);
      }
  });
});
