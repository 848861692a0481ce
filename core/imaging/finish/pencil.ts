import { PAPER_LEVEL } from '../light/paperShare';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import type { LitPage } from './litPage';
import { inkPlane, smoothGrain } from './inkPlane';

/** Standard deviations of the smoothed paper at which a stroke begins to show, and from which it wholly does. */
const GRAIN_FROM = 1.3;
const GRAIN_TO = 3;
/** What smoothing leaves of the scatter of neighbouring pixels, which JPEG has made alike. */
const GRAIN_LEFT = 0.6;
/** Depth, as a share of the paper, that comes out black. */
const BLACKEST = 0.8;
/** Below 1 lifts faint strokes more than dark ones. */
const LIFT = 0.62;

/**
 * Pencil: grey, faint strokes lifted and paper grain left where it is.
 * @param fadeRules - without ruled lines and squares
 * @returns grey, the page's size
 */
export function pencil(lit: LitPage, fadeRules: boolean): PixelImage {
  const ink = inkPlane(lit, fadeRules);
  const smooth = smoothGrain(ink);
  const { width, height, depth } = ink;
  const { field } = lit;
  const out = createPixelImage(width, height, 1);
  const lifted = Float32Array.from({ length: 256 }, (_, d) => Math.min(1, d / PAPER_LEVEL / BLACKEST) ** LIFT * 255);
  for (let y = 0; y < height; y++) {
    const noiseRow = Math.floor(((y + 0.5) * field.height) / height) * field.width;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const seen = smooth[i]!;
      if (seen === 0) {
        out.data[i] = 255;
        continue;
      }
      const grain = PAPER_LEVEL * GRAIN_LEFT * field.noise[noiseRow + Math.floor(((x + 0.5) * field.width) / width)]!;
      const t = Math.min(1, Math.max(0, (seen / grain - GRAIN_FROM) / (GRAIN_TO - GRAIN_FROM)));
      out.data[i] = t === 0 ? 255 : 255 - lifted[(depth[i]! + seen) >> 1]! * t * t * (3 - 2 * t);
    }
  }
  return out;
}
