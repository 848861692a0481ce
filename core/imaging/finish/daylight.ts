import { divideByBackground } from '../light/divideByBackground';
import type { PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { sharpeningGain } from './sharpeningGain';
import type { PageLight } from './pageLight';
import { pictureWeight } from './pictureWeight';
import { cellShift, restoreCoverageInto } from './restoreCoverage';
import { strokeGainOf } from './strokeGain';

/*
 * Daylight: white paper, true colours.
 * 1. The paper is divided out channel by channel, which takes shadows and the lamp's colour away.
 * 2. Strokes that the lens blurred get their coverage back (restoreCoverage.ts).
 * 3. Pictures keep their own tones.
 */

/**
 * Paper grain and noise reach this many standard deviations below the paper: from there up everything is white. On a noisy
 * page, where what is left of its grain is made firmer with the strokes, it is more. Too low leaves specks, too high takes the
 * faintest pencil away.
 */
const NOISE_BELOW_WHITE = 1.5;
/** The same for a page as noisy as they come. */
const NOISY_BELOW_WHITE = 2.3;
/** Where the noise is slight, paper becomes white from this share of its own level on. */
const WHITE_SHARE = 0.98;
/** However noisy, nothing darker than this share of the paper becomes white: faint pencil stays. */
const LOWEST_WHITE = 0.8;
/**
 * Lights a page as Daylight.
 * @returns RGB (grey stays grey), the page's size
 */
export function daylight(lit: PageLight): PixelImage {
  const { page, field } = lit;
  const { lit: out, absorbed: missing } = divideByBackground(
    page,
    field,
    {
      below: NOISY_BELOW_WHITE + (NOISE_BELOW_WHITE - NOISY_BELOW_WHITE) * sharpeningGain(lit),
      least: LOWEST_WHITE,
      most: WHITE_SHARE,
    },
    cellShift(page),
  );
  const pictures = pictureWeight(field);
  const natural = pictures === null ? null : out.data.slice();
  restoreCoverageInto(out, missing, strokeGainOf(lit));
  if (pictures !== null && natural !== null) {
    layBack(out, natural, pictures, field);
    releaseBuffers(natural);
  }
  return out;
}

/** Where a picture lies, what it was before strokes were restored. */
function layBack(
  { width, height, channels, data }: PixelImage,
  natural: Uint8ClampedArray,
  weights: Float32Array,
  field: { readonly width: number; readonly height: number },
): void {
  // which pixels of a row have their middle in which column of the field
  const firstOf = Int32Array.from({ length: field.width + 1 }, (_, u) =>
    Math.max(0, Math.ceil((u * width) / field.width - 0.5)),
  );
  for (let y = 0; y < height; y++) {
    const row = Math.floor(((y + 0.5) * field.height) / height) * field.width;
    for (let u = 0; u < field.width; u++) {
      const weight = weights[row + u]!;
      if (weight === 0) continue;
      for (
        let at = (y * width + firstOf[u]!) * channels, end = (y * width + firstOf[u + 1]!) * channels;
        at < end;
        at++
      )
        data[at] = data[at]! + (natural[at]! - data[at]!) * weight;
    }
  }
}
