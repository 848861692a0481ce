import { lerpPoint } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { quantile } from '../raster/quantile';
import { CHANNELS, type ColourPicture } from './colourPicture';

/** The paper between the ink of a candidate. */
export interface PaperInside {
  /** Lightness, 0 to 255. */
  readonly lightness: number;
  /** Distance from grey, in levels. */
  readonly colour: number;
  /** Share of the samples that are like the paper in lightness and colour. */
  readonly evenness: number;
  /** How much its colour varies, 0 to 1. */
  readonly colourVariation: number;
}

/** Samples across, and down. */
const SAMPLES = 10;
/** How many of them must lie in the picture. */
const MIN_SAMPLES = 10;
/** Difference of lightness up to which a sample is like the paper, as a share of the paper's. */
const LIKE_LIGHTNESS = 0.12;
/** Difference of colour up to which it is, in levels. */
const LIKE_COLOUR = 12;
/** Colour variation, in levels, that counts half. */
const HALF_VARIATION = 8;

/** Lightness, colour and evenness of the paper between the ink, from a grid of points well inside; zeros where too few are in the picture. */
export function samplePaper(quad: Quad, { width, height, samples }: ColourPicture): PaperInside {
  const places = new Int32Array(SAMPLES * SAMPLES);
  let count = 0;
  for (let j = 0; j < SAMPLES; j++) {
    const down = (j + 0.5) / SAMPLES;
    const left = lerpPoint(quad[0], quad[3], down);
    const right = lerpPoint(quad[1], quad[2], down);
    for (let i = 0; i < SAMPLES; i++) {
      const { x, y } = lerpPoint(left, right, (i + 0.5) / SAMPLES);
      if (x >= 0 && y >= 0 && x < width && y < height)
        places[count++] = CHANNELS * (Math.floor(y) * width + Math.floor(x));
    }
  }
  if (count < MIN_SAMPLES) return { lightness: 0, colour: 0, evenness: 0, colourVariation: 0 };
  return samples.view((values) => paperAt(values, places.subarray(0, count)));
}

/** What the paper is like at some places of a picture. */
function paperAt(values: Float32Array, places: Int32Array): PaperInside {
  const count = places.length;
  const levels = new Float32Array(count);
  for (let k = 0; k < count; k++) levels[k] = values[places[k]!]!;
  const median = quantile(levels, 0.5);
  // the paper is the brighter half: ink is darker
  let bright = 0;
  let meanA = 0;
  let meanB = 0;
  for (let k = 0; k < count; k++) {
    const at = places[k]!;
    if (values[at]! < median) continue;
    bright++;
    meanA += values[at + 1]!;
    meanB += values[at + 2]!;
  }
  meanA /= bright;
  meanB /= bright;
  let variation = 0;
  let like = 0;
  for (let k = 0; k < count; k++) {
    const at = places[k]!;
    const off = Math.sqrt((values[at + 1]! - meanA) ** 2 + (values[at + 2]! - meanB) ** 2);
    if (values[at]! >= median) variation += off / bright;
    if (Math.abs(values[at]! - median) < LIKE_LIGHTNESS * median && off < LIKE_COLOUR) like++;
  }
  return {
    lightness: median,
    colour: Math.sqrt(meanA * meanA + meanB * meanB),
    evenness: like / count,
    colourVariation: variation / (variation + HALF_VARIATION),
  };
}
