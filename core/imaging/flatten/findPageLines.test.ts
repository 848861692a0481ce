import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { wholePicture } from '../geometry/quad';
import { pixelImageFrom, type PixelImage } from '../raster/pixelImage';
import { findPageLines } from './findPageLines';
import { readShape } from './flattenPage';
import { readingPage } from './readingPage';
import { LINE_PLACES, linesProblem, MOST_LINES, scaleLines, turnLines, type PageLine } from './pageLine';

const WIDTH = 710;
const HEIGHT = 1000;

function linesOn(draw: (ctx: SKRSContext2D) => void): PageLine[] {
  const canvas = createCanvas(WIDTH, HEIGHT);
  const ctx = canvas.getContext('2d');
  ctx.fillStyle = '#f6f4ee';
  ctx.fillRect(0, 0, WIDTH, HEIGHT);
  ctx.fillStyle = '#223';
  ctx.strokeStyle = '#9ab';
  draw(ctx);
  const photo: PixelImage = pixelImageFrom(
    WIDTH,
    HEIGHT,
    4,
    new Uint8ClampedArray(ctx.getImageData(0, 0, WIDTH, HEIGHT).data),
  );
  const shape = readShape(wholePicture(WIDTH, HEIGHT), photo);
  return findPageLines(readingPage(photo, shape), shape);
}

const curve = (ctx: SKRSContext2D, of: (x: number) => number, from = 0, to = WIDTH): void => {
  ctx.beginPath();
  for (let x = from; x <= to; x += 5) ctx.lineTo(x, of(x));
  ctx.stroke();
};

describe('findPageLines', () => {
  it('follows rulings that climb and bend to half a pixel', () => {
    const course = (k: number) => (x: number) => 100 + 34 * k + 12 * Math.sin(x / 300) + x * 0.03;
    const lines = linesOn((ctx) => {
      for (let k = 0; k < 28; k++) curve(ctx, course(k));
    });
    expect(lines).toHaveLength(MOST_LINES);
    for (const { along, points, strayPx } of lines) {
      expect(along).toBe('across');
      expect(points).toHaveLength(LINE_PLACES);
      expect(strayPx).toBeLessThan(0.4);
      const nearest = (x: number, y: number): number =>
        Math.min(...Array.from({ length: 28 }, (_, k) => Math.abs(course(k)(x) - y)));
      for (const { x, y } of points) expect(nearest(x, y)).toBeLessThan(0.6);
    }
  });

  it('finds squares both ways', () => {
    const lines = linesOn((ctx) => {
      for (let k = 1; k < 24; k++) {
        curve(ctx, () => 50 * k - 0.5);
        ctx.fillRect(35 * k, 0, 1, HEIGHT);
      }
    });
    expect(lines.filter(({ along }) => along === 'across').length).toBe(MOST_LINES);
    expect(lines.filter(({ along }) => along === 'down').length).toBe(MOST_LINES);
  });

  it('finds none in loops, dots and on blank paper', () => {
    expect(linesOn(() => undefined)).toEqual([]);
    const loops = linesOn((ctx) => {
      for (let k = 0; k < 40; k++) {
        ctx.beginPath();
        ctx.arc(80 + ((k * 173) % 560), 90 + ((k * 311) % 820), 20 + ((k * 7) % 60), 0, 5);
        ctx.stroke();
      }
    });
    expect(loops.length).toBeLessThan(4);
  });
});

describe('lines of a page', () => {
  const line: PageLine = { along: 'across', strayPx: 0.3, points: [1, 2, 3].map((k) => ({ x: 10 * k, y: 5 })) };

  it('grow with their photo, and turn with their page', () => {
    expect(scaleLines([line], 2)[0]).toEqual({
      along: 'across',
      strayPx: 0.6,
      points: [20, 40, 60].map((x) => ({ x, y: 10 })),
    });
    expect(turnLines([line], 1)[0]!.along).toBe('down');
    expect(turnLines([line], -2)[0]!.along).toBe('across');
  });

  it.each([
    ['no list', null],
    ['too many', Array.from({ length: 2 * MOST_LINES + 1 }, () => line)],
    ['a line of no direction', [{ ...line, along: 'aslant' }]],
    ['a place that is none', [{ ...line, points: [...line.points.slice(1), { x: NaN, y: 2 }] }]],
    ['a line of two places', [{ ...line, points: line.points.slice(1) }]],
    ['nothing for a line', [null]],
  ])('are refused where they are %s', (_, lines) => {
    expect(linesProblem(lines)).toMatch(/at most 32/);
    expect(linesProblem([line])).toBeNull();
  });
});
