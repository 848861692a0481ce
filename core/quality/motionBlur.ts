import { placeOnQuad, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';

/*
 * Did the hand slip? Fine detail (second differences at 1 px over those at 4 px) is measured in four directions. Blur of the lens
 * takes it from all of them, a slip from one: the directions then differ far more than writing or rules make them.
 * Fails below about 4 px of movement, and on a page so blurred that no direction has any detail left (that is measured as blur).
 */

const LOOKS = 300;
const NEAR_PX = 1;
const FAR_PX = 4;
const ABOVE_NOISE = 16;
const DIRECTIONS = [[1, 0], [1, 1], [0, 1], [1, -1]] as const;
/** The best direction must have this much detail for the comparison to mean anything. */
const LEAST_DETAIL = 0.07;
const SLIPPED_BELOW = 0.12;

/** @param photo - at its full size; a grid of places on the page is read */
export function handSlipped({ width, height, channels, data }: PixelImage, page: Quad): boolean {
  const green = channels === 1 ? 0 : 1;
  const light = (x: number, y: number): number => data[(y * width + x) * channels + green]!;
  const fine = [0, 0, 0, 0];
  const coarse = [0, 0, 0, 0];
  for (let j = 0; j < LOOKS; j++) {
    for (let i = 0; i < LOOKS; i++) {
      const p = placeOnQuad(page, 0.05 + (0.9 * i) / LOOKS, 0.05 + (0.9 * j) / LOOKS);
      const x = Math.floor(p.x);
      const y = Math.floor(p.y);
      if (x < FAR_PX || y < FAR_PX || x >= width - FAR_PX || y >= height - FAR_PX) continue;
      const twice = 2 * light(x, y);
      DIRECTIONS.forEach(([dx, dy], d) => {
        fine[d]! += Math.max(0, Math.abs(twice - light(x + NEAR_PX * dx, y + NEAR_PX * dy) - light(x - NEAR_PX * dx, y - NEAR_PX * dy)) - ABOVE_NOISE);
        coarse[d]! += Math.max(0, Math.abs(twice - light(x + FAR_PX * dx, y + FAR_PX * dy) - light(x - FAR_PX * dx, y - FAR_PX * dy)) - ABOVE_NOISE);
      });
    }
  }
  const detail = fine.map((sum, d) => (coarse[d] === 0 ? 0 : sum / coarse[d]!));
  const most = Math.max(...detail);
  return most >= LEAST_DETAIL && Math.min(...detail) < SLIPPED_BELOW * most;
}
