import { divideByPaper } from '../light/paperShare';
import type { PixelImage } from '../raster/pixelImage';
import type { LitPage } from './litPage';
import { pictureWeight } from './pictureWeight';
import { cellShift, restoreCoverage } from './restoreCoverage';

/*
 * Daylight: white paper, true colours.
 * 1. The paper is divided out channel by channel, which takes shadows and the lamp's colour away.
 * 2. Strokes that the lens blurred get their coverage back (restoreCoverage.ts).
 * 3. Pictures keep their own tones.
 */

/** Paper grain and noise reach this many standard deviations below the paper: from there up everything is white. */
const NOISE_BELOW_WHITE = 1.5;
/** Where the noise is slight, paper becomes white from this share of its own level on. */
const WHITE_SHARE = 0.98;
const LOWEST_WHITE = 0.8;
/**
 * Lights a page as Daylight.
 * @returns RGB (grey stays grey), the page's size
 */
export function daylight({ page, field, detail }: LitPage): PixelImage {
  const { lit: out, missing } = divideByPaper(page, field, { below: NOISE_BELOW_WHITE, least: LOWEST_WHITE, most: WHITE_SHARE }, cellShift(page));
  const pictures = pictureWeight(field);
  const natural = pictures === null ? null : out.data.slice();
  restoreCoverage(out, missing, detail);
  if (pictures !== null && natural !== null) layBack(out, natural, pictures, field);
  return out;
}

/** Where a picture lies, what it was before strokes were restored. */
function layBack({ width, height, channels, data }: PixelImage, natural: Uint8ClampedArray, weights: Float32Array, field: { readonly width: number; readonly height: number }): void {
  const columns = Int32Array.from({ length: width }, (_, x) => Math.floor(((x + 0.5) * field.width) / width));
  for (let y = 0; y < height; y++) {
    const row = Math.floor(((y + 0.5) * field.height) / height) * field.width;
    if (weights.subarray(row, row + field.width).every((weight) => weight === 0)) continue;
    for (let x = 0, at = y * width * channels; x < width; x++, at += channels) {
      const weight = weights[row + columns[x]!]!;
      if (weight > 0) for (let c = at; c < at + channels; c++) data[c] = data[c]! + (natural[c]! - data[c]!) * weight;
    }
  }
}
