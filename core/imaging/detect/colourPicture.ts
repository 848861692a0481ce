import { COLOUR_KERNELS } from '../kernels/colourKernels';
import type { PixelImage } from '../raster/pixelImage';
import { arenaKernels, FIRST_BYTE, type KernelArena } from '../kernels/startKernels';

/*
 * Pictures as the search for the paper sees them. They live in the memory of the kernels that read them
 * (core/raster/kernels/colour.as.ts), so that nothing is copied between one step and the next.
 */

/** A picture as lightness and two opponent colours, all on the 0–255 scale (colours signed). Void once forgetPictures is called. */
export interface ColourPicture {
  readonly width: number;
  readonly height: number;
  /** Place (in bytes) of its pixels in the kernels' memory. */
  readonly at: number;
}

/** 32-bit floats a pixel: lightness (Rec. 601 weights), red–green, yellow–blue, and nothing. */
export const CHANNELS = 4;

interface ColourKernels {
  splitRow(
    upper: number,
    lower: number,
    step: number,
    grey: boolean,
    columns: number,
    width: number,
    out: number,
  ): void;
  scale(picture: number, pixels: number, factor: number): void;
  halve(picture: number, width: number, height: number, out: number): void;
  smooth(picture: number, width: number, height: number, out: number): void;
  gradient(picture: number, width: number, height: number, gx: number, gy: number, magnitude: number): void;
}

/** Room for what a photo needs. */
const FIRST_PAGES = 512;

const arena = arenaKernels<ColourKernels>(COLOUR_KERNELS, FIRST_PAGES);

export const colourArena = (): KernelArena<ColourKernels> => arena();

/** Begins with a new photo: every picture made before is gone. */
export const forgetPictures = (): void => arena().releaseFrom(FIRST_BYTE);

const createPicture = (width: number, height: number): ColourPicture => ({
  width,
  height,
  at: arena().reserve(4 * CHANNELS * width * height),
});

/** The picture's values [y, x, CHANNELS]; valid until another is made. */
export const valuesOf = ({ width, height, at }: ColourPicture): Float32Array =>
  new Float32Array(arena().buffer(), at, CHANNELS * width * height);

/** A picture of lightness alone. */
export function colourless(width: number, height: number, lightness: (at: number) => number): ColourPicture {
  const picture = createPicture(width, height);
  const values = valuesOf(picture).fill(0);
  for (let i = 0; i < width * height; i++) values[CHANNELS * i] = lightness(i);
  return picture;
}

/** Splits RGB or RGBA (grey counts as colourless) into lightness, red–green and yellow–blue. */
export const toColourPicture = (image: PixelImage): ColourPicture =>
  splitRows(
    image,
    image.height,
    Int32Array.from({ length: image.width }, (_, x) => x),
    (y) => y,
    false,
  );

/**
 * toColourPicture of the image made smaller, in one pass: each pixel is the mean of the 2 × 2 at its place. Steps above 3
 * begin to alias.
 * @param longSidePx - of the result; at most half the image's
 */
export function toSmallColourPicture(image: PixelImage, longSidePx: number): ColourPicture {
  const step = Math.max(image.width, image.height) / longSidePx;
  const place = (k: number): number => Math.round((k + 0.5) * step - 1);
  return splitRows(
    image,
    Math.floor(image.height / step),
    Int32Array.from({ length: Math.floor(image.width / step) }, (_, x) => place(x)),
    place,
    true,
  );
}

/** A picture of the pixels at some columns and rows, or of the 2 × 2 that begin there. */
function splitRows(
  { width, channels, data }: PixelImage,
  height: number,
  columns: Int32Array,
  rowOf: (y: number) => number,
  two: boolean,
): ColourPicture {
  const out = createPicture(columns.length, height);
  const stride = width * channels;
  const { kernels, buffer, reserve, releaseFrom } = arena();
  const columnsAt = reserve(columns.byteLength);
  const upperAt = reserve(stride);
  const lowerAt = reserve(stride);
  new Int32Array(buffer(), columnsAt, columns.length).set(columns.map((x) => x * channels));
  const bytes = new Uint8ClampedArray(buffer());
  for (let y = 0; y < height; y++) {
    const row = rowOf(y) * stride;
    bytes.set(data.subarray(row, row + stride), upperAt);
    if (two) bytes.set(data.subarray(row + stride, row + 2 * stride), lowerAt);
    kernels.splitRow(
      upperAt,
      two ? lowerAt : upperAt,
      two ? channels : 0,
      channels === 1,
      columnsAt,
      columns.length,
      out.at + 4 * CHANNELS * y * columns.length,
    );
  }
  releaseFrom(columnsAt);
  return out;
}

/** Lightness that a picture's lightest places are brought up to, and by how much at most. */
const LIGHT_ENOUGH = 170;
const MOST_GAIN = 6;

/** Makes a dim picture, in place, as light as a usual one, so that what looks for edges need not know how dim it was; leaves others as they are. */
export function brightenPicture(picture: ColourPicture): ColourPicture {
  const pixels = picture.width * picture.height;
  const light = lightnessQuantiles(picture, 251, [0.97])[0]!;
  const gain = Math.min(MOST_GAIN, LIGHT_ENOUGH / Math.max(1, light));
  if (gain > 1) arena().kernels.scale(picture.at, pixels, gain);
  return picture;
}

/** Quantiles of the lightness, from every so manieth pixel. */
export function lightnessQuantiles(picture: ColourPicture, every: number, quantiles: readonly number[]): number[] {
  const values = valuesOf(picture);
  const sample = new Float32Array(Math.ceil((picture.width * picture.height) / every));
  for (let k = 0; k < sample.length; k++) sample[k] = values[CHANNELS * every * k]!;
  sample.sort();
  return quantiles.map((q) => sample[Math.floor(q * (sample.length - 1))]!);
}

/** Half the size, each pixel the mean of four; an odd last row or column is dropped. */
export function halvePicture({ width, height, at }: ColourPicture): ColourPicture {
  const out = createPicture(width >> 1, height >> 1);
  arena().kernels.halve(at, width, height, out.at);
  return out;
}

/** The mean of the 3 × 3 about each pixel; beyond the border the last pixel repeats. */
export function smoothPicture({ width, height, at }: ColourPicture): ColourPicture {
  const out = createPicture(width, height);
  arena().kernels.smooth(at, width, height, out.at);
  return out;
}
