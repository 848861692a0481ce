import { placeOnQuad, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';

/** Places read are so many times so many. */
const SAMPLES = 100;
/** Differences are taken over so many px, which blur takes away, */
const NEAR_PX = 1;
/** and over so many, which it leaves. */
const FAR_PX = 4;
/** Difference that is more than noise, levels. */
const ABOVE_NOISE = 16;
/** Directions looked along, as steps of a pixel. */
const DIRECTIONS = [
  [1, 0],
  [1, 1],
  [0, 1],
  [1, -1],
] as const;

/**
 * Fine detail beside coarse, along rows, falling diagonals, columns and rising diagonals.
 * Blur of the lens takes detail from all directions, a slip of the hand from one: they then differ far more than writing or
 * rules make them.
 * @param picture - a grid of places on the page is read
 * @param page - the paper's outline in it, px
 * @returns second differences at 1 px over those at 4 px, above the noise; 0 where there is no coarse detail
 */
export function detailByDirection({ width, height, channels, data }: PixelImage, page: Quad): number[] {
  const green = channels === 1 ? 0 : 1;
  const steps = DIRECTIONS.map(([dx, dy]) => (dy * width + dx) * channels);
  const fine = [0, 0, 0, 0];
  const coarse = [0, 0, 0, 0];
  for (let j = 0; j < SAMPLES; j++) {
    for (let i = 0; i < SAMPLES; i++) {
      const p = placeOnQuad(page, 0.05 + (0.9 * i) / SAMPLES, 0.05 + (0.9 * j) / SAMPLES);
      const x = Math.floor(p.x);
      const y = Math.floor(p.y);
      if (x < FAR_PX || y < FAR_PX || x >= width - FAR_PX || y >= height - FAR_PX) continue;
      const at = (y * width + x) * channels + green;
      const twice = 2 * data[at]!;
      for (let d = 0; d < steps.length; d++) {
        const step = steps[d]!;
        fine[d]! += Math.max(
          0,
          Math.abs(twice - data[at + NEAR_PX * step]! - data[at - NEAR_PX * step]!) - ABOVE_NOISE,
        );
        coarse[d]! += Math.max(
          0,
          Math.abs(twice - data[at + FAR_PX * step]! - data[at - FAR_PX * step]!) - ABOVE_NOISE,
        );
      }
    }
  }
  return fine.map((sum, d) => (coarse[d] === 0 ? 0 : sum / coarse[d]!));
}
