import { withWorkspace, type FloatSlot, type Workspace } from '../kernels/workspace';
import { halveImage } from '../raster/halveImage';
import type { PixelImage } from '../raster/pixelImage';
import { quantile } from '../raster/quantile';

/*
 * Pictures as the search for the paper sees them. They lie in a workspace, so that nothing is copied between one step and the
 * next, and end with it.
 */

/** A picture as lightness and two opponent colours, all on the 0–255 scale (colours signed). */
export interface ColourPicture {
  readonly width: number;
  readonly height: number;
  /** [y, x, CHANNELS] */
  readonly samples: FloatSlot;
}

/** 32-bit floats a pixel: lightness (Rec. 601 weights), red–green, yellow–blue, and nothing. */
export const CHANNELS = 4;

const createPicture = (width: number, height: number, ws: Workspace): ColourPicture => ({
  width,
  height,
  samples: ws.f32(CHANNELS * width * height),
});

/** A picture of lightness alone. */
export function colourless(
  width: number,
  height: number,
  lightness: (at: number) => number,
  ws: Workspace,
): ColourPicture {
  const values = new Float32Array(CHANNELS * width * height);
  for (let i = 0; i < width * height; i++) values[CHANNELS * i] = lightness(i);
  return { width, height, samples: ws.of(values) };
}

/** Splits RGB or RGBA (grey counts as colourless) into lightness, red–green and yellow–blue. */
export const toColourPicture = (image: PixelImage, ws: Workspace): ColourPicture =>
  splitRows(image, ws, {
    height: image.height,
    columns: Int32Array.from({ length: image.width }, (_, x) => x),
    rowOf: (y) => y,
    two: false,
  });

/** Pixels to a step up to which the mean of 2 × 2 is low-pass enough. */
const MOST_STEP = 3.5;

/**
 * toColourPicture of the image made smaller: each pixel is the mean of the 2 × 2 at its place, of an image that is halved first
 * as often as that would alias.
 * @param longSidePx - of the result; at most half the image's
 */
export function toSmallColourPicture(photo: PixelImage, longSidePx: number, ws: Workspace): ColourPicture {
  let image = photo;
  while (Math.max(image.width, image.height) > MOST_STEP * longSidePx) image = halveImage(image);
  const step = Math.max(image.width, image.height) / longSidePx;
  const place = (k: number): number => Math.round((k + 0.5) * step - 1);
  return splitRows(image, ws, {
    height: Math.floor(image.height / step),
    columns: Int32Array.from({ length: Math.floor(image.width / step) }, (_, x) => place(x)),
    rowOf: place,
    two: true,
  });
}

/** Which pixels a picture is made of. */
interface PickedPixels {
  /** Of the picture. */
  readonly height: number;
  /** Of the image, for each column of the picture. */
  readonly columns: Int32Array;
  /** The image's row for one of the picture. */
  readonly rowOf: (y: number) => number;
  /** Whether each pixel is the mean of the 2 × 2 that begin there. */
  readonly two: boolean;
}

function splitRows(
  { width, channels, data }: PixelImage,
  ws: Workspace,
  { height, columns, rowOf, two }: PickedPixels,
): ColourPicture {
  const out = createPicture(columns.length, height, ws);
  const stride = width * channels;
  withWorkspace((rows) => {
    const firstSamples = rows.of(columns.map((x) => x * channels));
    const upper = rows.clamped(stride);
    const lower = rows.clamped(stride);
    for (let y = 0; y < height; y++) {
      const from = rowOf(y) * stride;
      upper.set(data.subarray(from, from + stride));
      if (two) lower.set(data.subarray(from + stride, from + 2 * stride));
      rows.kernels.splitRow(
        upper.at,
        two ? lower.at : upper.at,
        two ? channels : 0,
        channels === 1,
        firstSamples.at,
        columns.length,
        out.samples.addressOf(CHANNELS * y * columns.length),
      );
    }
  });
  return out;
}

/** Lightness that a dim picture's lightest places are brought up to, levels: thresholds are set for pictures of about this. */
const LIGHT_ENOUGH = 170;
/** A picture is made lighter by this factor at most: more shows nothing but noise. */
const MOST_GAIN = 6;

/** Makes a dim picture, in place, as light as a usual one, so that what looks for edges need not know how dim it was; leaves others as they are. */
export function brightenPictureInto(picture: ColourPicture): ColourPicture {
  const pixels = picture.width * picture.height;
  const light = lightnessQuantiles(picture, 251, [0.97])[0]!;
  const gain = Math.min(MOST_GAIN, LIGHT_ENOUGH / Math.max(1, light));
  if (gain > 1) withWorkspace(({ kernels }) => kernels.scalePicture(picture.samples.at, pixels, gain));
  return picture;
}

/** Quantiles of the lightness, from every so manieth pixel. */
export function lightnessQuantiles(
  { width, height, samples }: ColourPicture,
  every: number,
  quantiles: readonly number[],
): number[] {
  const sample = new Float32Array(Math.ceil((width * height) / every));
  samples.view((values) => {
    for (let k = 0; k < sample.length; k++) sample[k] = values[CHANNELS * every * k]!;
  });
  return quantiles.map((q) => quantile(sample, q));
}

/** Half the size, each pixel the mean of four; an odd last row or column is dropped. */
export function halvePicture({ width, height, samples }: ColourPicture, ws: Workspace): ColourPicture {
  const out = createPicture(width >> 1, height >> 1, ws);
  ws.kernels.halvePicture(samples.at, width, height, out.samples.at);
  return out;
}

/** The mean of the 3 × 3 about each pixel; beyond the border the last pixel repeats. */
export function smoothPicture({ width, height, samples }: ColourPicture, ws: Workspace): ColourPicture {
  const out = createPicture(width, height, ws);
  ws.kernels.smoothPicture(samples.at, width, height, out.samples.at);
  return out;
}
