import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import type { Point } from '../geometry/point';
import { pixelImageFrom } from '../raster/pixelImage';
import { lightnessPlane } from '../raster/plane';
import { findHoleRows } from './holeRows';

const WIDTH = 1000;
const HEIGHT = 710;

function rowsOn(draw: (ctx: SKRSContext2D) => void): (readonly Point[])[] {
  const canvas = createCanvas(WIDTH, HEIGHT);
  const ctx = canvas.getContext('2d');
  ctx.fillStyle = '#f6f4ee';
  ctx.fillRect(0, 0, WIDTH, HEIGHT);
  draw(ctx);
  const { data } = ctx.getImageData(0, 0, WIDTH, HEIGHT);
  return findHoleRows(lightnessPlane(pixelImageFrom(WIDTH, HEIGHT, 4, new Uint8ClampedArray(data)))).map(
    ({ places }) => places,
  );
}

/** Holes with their middles at these places. */
const punch =
  (middles: readonly Point[], radius = 8, colour = '#655') =>
  (ctx: SKRSContext2D): void => {
    ctx.fillStyle = colour;
    for (const { x, y } of middles) {
      ctx.beginPath();
      ctx.arc(x, y, radius, 0, 7);
      ctx.fill();
    }
  };
const along = (count: number, xOf: (k: number) => number, yOf: (x: number) => number): Point[] =>
  Array.from({ length: count }, (_, k) => ({ x: xOf(k), y: yOf(xOf(k)) }));
const spiral = along(
  31,
  (k) => 50 + 30 * k,
  (x) => 26 + 4 * (x / WIDTH - 0.4) ** 2,
);

describe('findHoleRows', () => {
  it.each<[string, readonly Point[]]>([
    ['a spiral, on a side that bends', spiral],
    ['a spiral some of whose holes are torn or hidden', spiral.filter((_, k) => k < 8 || k > 13)],
    [
      'a folder with four rings, at the far side',
      along(
        4,
        (k) => 95 + 270 * k,
        () => HEIGHT - 40,
      ),
    ],
  ])('finds the holes of %s, each to half a pixel', (_, holes) => {
    const [row, ...more] = rowsOn(punch(holes));
    expect(more).toEqual([]);
    expect(row).toHaveLength(holes.length);
    row!.forEach(({ x, y }, k) => expect(Math.hypot(x - holes[k]!.x, y - holes[k]!.y)).toBeLessThan(0.5));
  });

  it('finds a row along either side', () => {
    const mirrored = spiral.map(({ x, y }) => ({ x, y: HEIGHT - y }));
    expect(rowsOn(punch([...spiral, ...mirrored]))).toHaveLength(2);
  });

  it.each<[string, (ctx: SKRSContext2D) => void]>([
    ['two holes of a folder', punch(spiral.filter((_, k) => k === 10 || k === 20))],
    [
      'dots at odd distances',
      punch(
        along(
          8,
          (k) => 50 + 60 * k + 9 * k * k,
          () => 30,
        ),
      ),
    ],
    [
      'dots that follow no course',
      punch(
        along(
          20,
          (k) => 50 + 40 * k,
          (x) => 28 + 9 * Math.sin(x),
        ),
      ),
    ],
    ['dots in the middle of the page', punch(spiral.map(({ x }) => ({ x, y: 300 })))],
    ['what reaches in from beyond the page', punch(spiral.map(({ x }) => ({ x, y: 2 })))],
    ['holes over a desk as white as the paper', punch(spiral, 8, '#eee')],
    [
      'a line of writing',
      (ctx) => {
        ctx.fillStyle = '#223';
        ctx.font = '24px sans-serif';
        ctx.fillText('Soundings on the bar at low water, from the shore to the second buoy', 40, 40);
      },
    ],
  ])('takes %s for no row', (_, draw) => expect(rowsOn(draw)).toEqual([]));
});
