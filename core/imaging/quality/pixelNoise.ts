import { placeOnQuad, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';

/** Places looked at across a page, and down. */
const PLACES = 60;
/** Share of the differences, the smallest first, that are bare paper's: the others are ink's. */
const BARE_SHARE = 0.4;
/** Mean of that share of |a - b| for Gaussian noise, in standard deviations: √2 · 2 (φ(0) - φ(0.524)) / 0.4. */
const MEAN_OF_BARE = 0.362;
/** How far apart pixels are that differ by the paper's texture too, px. */
const FAR = 5;

/**
 * How much pixels of bare paper scatter by themselves: what of the difference of neighbours is left when what grows with
 * their distance (texture, ink, shade) is taken off, as the nugget of a linear variogram is (Matheron 1963).
 * @param photo - at its full size; green stands for lightness
 * @returns the standard deviation, levels: under 1 in good light, above in dim; 0 where nothing of the page is in the picture
 */
export function measurePixelNoise(photo: PixelImage, page: Quad): number {
  const [near, far] = [scatterAt(photo, page, 1) ** 2, scatterAt(photo, page, FAR) ** 2];
  return Math.sqrt(Math.max(0, near - (far - near) / (FAR - 1)));
}

/** Standard deviation that bare pixels so far apart in a row would have if they were independent, levels. */
function scatterAt({ width, height, channels, data }: PixelImage, page: Quad, apart: number): number {
  const green = channels === 1 ? 0 : 1;
  const differences: number[] = [];
  for (let j = 1; j < PLACES; j++) {
    for (let i = 1; i < PLACES; i++) {
      const p = placeOnQuad(page, i / PLACES, j / PLACES);
      const x = Math.floor(p.x);
      const y = Math.floor(p.y);
      if (x < 0 || y < 0 || x + apart >= width || y >= height) continue;
      const at = (y * width + x) * channels + green;
      differences.push(Math.abs(data[at + apart * channels]! - data[at]!));
    }
  }
  const bare = differences.sort((p, q) => p - q).slice(0, Math.round(BARE_SHARE * differences.length));
  return bare.length === 0 ? 0 : bare.reduce((sum, one) => sum + one, 0) / bare.length / MEAN_OF_BARE;
}
