import { detectOutline } from '../../core/imaging/detect/detectOutline';
import { readShape } from '../../core/imaging/flatten/flattenPage';
import { photoToPage } from '../../core/imaging/flatten/placeOnPage';
import type { Quad } from '../../core/imaging/geometry/quad';
import { quarterTurnsTo, turned } from '../flatness';
import { bentSurface, BENDS } from './bentSurface';
import { shotOf } from './bends';
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
});
