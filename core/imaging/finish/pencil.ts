import { fieldCells } from '../light/fieldCells';
import { PAPER_LEVEL } from '../light/normaliseLightness';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import type { PageLight } from './pageLight';
import { settingsAt, sizeBesideFile } from './smallCopy';
import { inkPlane, smoothGrain } from './inkPlane';

/** Standard deviations of the smoothed paper at which a stroke begins to show: lower leaves grain, higher takes the faintest pencil. */
const GRAIN_FROM = 1.3;
/** And from which it wholly does. */
const GRAIN_TO = 3;
/** What smoothing leaves of the scatter of neighbouring pixels, which JPEG has made alike. */
const GRAIN_LEFT = 0.6;
/**
 * The depth, as a share of the paper, that comes out black, and the power that lifts faint strokes more than dark ones (below
 * 1), by the page's size beside the file's. Fitted as strokeGain.ts says: 1.4, 2.7 and 3.8 levels are left on the mean.
 */
const SMALL_COPIES = [
  { ratio: 0.3, settings: [0.5, 1] },
  { ratio: 0.43, settings: [0.55, 0.9] },
  { ratio: 0.71, settings: [0.8, 0.62] },
  { ratio: 1, settings: [0.8, 0.62] },
] as const;

/**
 * Pencil: grey, faint strokes lifted and paper grain left where it is.
 * @param fadeRules - without ruled lines and squares
 * @returns grey, the page's size
 */
export function pencil(lit: PageLight, fadeRules: boolean): PixelImage {
  const ink = inkPlane(lit, fadeRules);
  const smooth = smoothGrain(ink);
  const { width, height, depth } = ink;
  const { field } = lit;
  const { columnOf, rowOf } = fieldCells(ink, field);
  const out = createPixelImage(width, height, 1);
  const [blackest, lift] = settingsAt(SMALL_COPIES, sizeBesideFile(lit)) as [number, number];
  const lifted = Float32Array.from({ length: 256 }, (_, d) => Math.min(1, d / PAPER_LEVEL / blackest) ** lift * 255);
  for (let y = 0; y < height; y++) {
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const seen = smooth[i]!;
      if (seen === 0) {
        out.data[i] = 255;
        continue;
      }
      const grain = PAPER_LEVEL * GRAIN_LEFT * field.noise[rowOf[y]! + columnOf[x]!]!;
      const t = Math.min(1, Math.max(0, (seen / grain - GRAIN_FROM) / (GRAIN_TO - GRAIN_FROM)));
      out.data[i] = t === 0 ? 255 : 255 - lifted[(depth[i]! + seen) >> 1]! * t * t * (3 - 2 * t);
    }
  }
  return out;
}
