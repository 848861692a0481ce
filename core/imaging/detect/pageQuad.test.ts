import { distanceToLine } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { sidesOfPage } from './pageQuad';
import type { PageSegmentation } from './pageNetwork';

const WIDTH = 96;
const HEIGHT = 128;
const map = (inside: (x: number, y: number) => boolean): PageSegmentation => {
  const page = Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
    inside((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5) ? 0.9 : 0.1,
  );
  return { width: WIDTH, height: HEIGHT, page, pageArea: 0, edge: new Float32Array(page.length) };
};
const within =
  (quad: Quad) =>
  (x: number, y: number): boolean =>
    quad.every((a, i) => distanceToLine({ x, y }, a, quad[(i + 1) % 4]!) >= 0);
const quad: Quad = [
  { x: 20, y: 18 },
  { x: 78, y: 25 },
  { x: 82, y: 110 },
  { x: 14, y: 104 },
];

/** How far the nearest found side runs from each true one, at both its ends. */
const offsets = (found: ReturnType<typeof sidesOfPage>): number[] =>
  quad.map((a, i) =>
    Math.min(
      ...found.map(([p, q]) =>
        Math.max(Math.abs(distanceToLine(a, p, q)), Math.abs(distanceToLine(quad[(i + 1) % 4]!, p, q))),
      ),
    ),
  );

describe('the sides of the network’s page', () => {
  it('are found to a pixel of the map', () => {
    expect(Math.max(...offsets(sidesOfPage(map(within(quad)))))).toBeLessThan(1.2);
  });

  it('are not moved by a bite from a thumb, nor by a smaller piece elsewhere', () => {
    const bitten = map((x, y) => (within(quad)(x, y) && !(x > 70 && y > 55 && y < 75)) || (x < 10 && y < 10));
    expect(Math.max(...offsets(sidesOfPage(bitten)))).toBeLessThan(2);
  });

  it('leave out those along the picture’s border, and are none where there is no page', () => {
    expect(sidesOfPage(map((x, y) => x < 60 && y > 30))).toHaveLength(2);
    expect(sidesOfPage(map(() => false))).toEqual([]);
  });
});
