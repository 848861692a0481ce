import type { Point } from '../core/imaging/geometry/point';

const LONG_SIDE_PX = 900;

/** Jaccard index of two outlines of any shape, in the photo, counted on a raster. */
export function regionJaccard(a: readonly Point[], b: readonly Point[], width: number, height: number): number {
  const scale = LONG_SIDE_PX / Math.max(width, height);
  const fill = (ring: readonly Point[]): Uint8Array =>
    rasterise(
      ring.map((p) => ({ x: (p.x + width / 2) * scale, y: (p.y + height / 2) * scale })),
      Math.ceil(2 * width * scale),
      Math.ceil(2 * height * scale),
    );
  const p = fill(a);
  const q = fill(b);
  let both = 0;
  let either = 0;
  for (let i = 0; i < p.length; i++) {
    both += p[i]! & q[i]!;
    either += p[i]! | q[i]!;
  }
  return either === 0 ? 0 : both / either;
}

/** Even–odd filling at pixel centres. */
function rasterise(ring: readonly Point[], width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    const crossings: number[] = [];
    ring.forEach((a, i) => {
      const b = ring[(i + 1) % ring.length]!;
      if (a.y > y + 0.5 !== b.y > y + 0.5) crossings.push(a.x + ((y + 0.5 - a.y) / (b.y - a.y)) * (b.x - a.x));
    });
    crossings.sort((p, q) => p - q);
    for (let k = 0; k + 1 < crossings.length; k += 2)
      out.fill(
        1,
        y * width + Math.max(0, Math.round(crossings[k]!)),
        y * width + Math.min(width, Math.max(0, Math.round(crossings[k + 1]!))),
      );
  }
  return out;
}
