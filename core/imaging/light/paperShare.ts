import { placesIn, type EnlargeKernels } from '../raster/enlargePlane';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { SHARES_KERNELS } from '../kernels/sharesKernels';
import { toLinear } from '../raster/transferCurve';
import { FIRST_BYTE, roomFor, scratchKernels } from '../kernels/startKernels';
import type { IlluminationField } from './illuminationField';
import type { PaperField } from './paperField';

/*
 * The page beside its paper. The field is coarser than the page; its inverse is read bilinearly, row by row, and the page's
 * samples are multiplied by it. The loops are WebAssembly (kernels/shares.as.ts); only a row of the page is there at a time.
 */

interface SharesKernels extends EnlargeKernels {
  invert(plane: number, count: number, level: number): void;
  invertWhite(
    plane: number,
    noise: number,
    count: number,
    level: number,
    below: number,
    least: number,
    most: number,
  ): void;
  paperTops(noise: number, count: number, level: number, below: number, least: number, most: number): void;
  sumMissing(
    samples: number,
    gains: number,
    tops: number,
    width: number,
    shift: number,
    tolerance: number,
    linear: number,
    reds: number,
    greens: number,
    blues: number,
  ): void;
  scaleRow(samples: number, gains: number, count: number, out: number): void;
  mixChannels(samples: number, gains: number, count: number, out: number): void;
}
const start = scratchKernels<SharesKernels>(SHARES_KERNELS);

/** From this many rows to one of the field on, two at a time have the same gains. */
const SHARED_FROM = 1.6;

type Size = Pick<PixelImage, 'width' | 'height'>;

interface GainRows {
  readonly kernels: SharesKernels;
  /** What the samples of the row are to be multiplied by so that paper becomes its level, interleaved like them. */
  readonly gains: Float32Array;
  readonly gainsAt: number;
  /** Room for a row of samples, and for what is made of it. */
  readonly samples: Uint8ClampedArray;
  readonly samplesAt: number;
  readonly out: Uint8ClampedArray;
  readonly outAt: number;
  /** Where paper lies along the row once white is at its level; only where there is a white point. */
  readonly topsAt: number;
  readonly moreAt: number;
  readonly buffer: ArrayBuffer;
  /** Fills gains for a row of the page, asked for from the top. */
  readonly fill: (y: number) => void;
}

/** What counts as white: the paper less so many standard deviations of its noise, as a share of it no less and no more than these. */
export interface WhitePoint {
  readonly below: number;
  readonly least: number;
  readonly most: number;
}

/**
 * @param levels - what paper is to become in each channel
 * @param white - where it is not the paper that becomes it
 * @param more - bytes for the caller's own use, from moreAt on
 */
function gainRows(
  { width, height }: Size,
  field: IlluminationField,
  levels: readonly number[],
  white: (WhitePoint & { readonly noise: Float32Array }) | null = null,
  more = 0,
): GainRows {
  const { planes } = field;
  const colours = planes.length;
  const planeBytes = roomFor(field.width * field.height);
  const leftsAt = FIRST_BYTE + colours * planeBytes;
  const sharesAt = leftsAt + roomFor(width);
  const lineAt = sharesAt + roomFor(width);
  const gainsAt = lineAt + roomFor(field.width + 1);
  const samplesAt = gainsAt + 4 * (colours * width + 16);
  const outAt = samplesAt + 4 * roomFor(width);
  const topsAt = 16 * Math.ceil((outAt + 4 * roomFor(width)) / 16);
  const noiseAt = topsAt + roomFor(width);
  const { kernels, buffer } = start(noiseAt + (white === null ? 0 : planeBytes) + more);
  if (white !== null) new Float32Array(buffer, noiseAt, white.noise.length).set(white.noise);
  planes.forEach((plane, c) => {
    const at = FIRST_BYTE + c * planeBytes;
    new Float32Array(buffer, at, plane.length).set(plane);
    if (white === null) kernels.invert(at, plane.length, levels[c]!);
    else kernels.invertWhite(at, noiseAt, plane.length, levels[c]!, white.below, white.least, white.most);
  });
  if (white !== null) kernels.paperTops(noiseAt, white.noise.length, levels[0]!, white.below, white.least, white.most);
  const columns = placesIn(field.width, width);
  new Int32Array(buffer, leftsAt, width).set(columns.lefts);
  new Float32Array(buffer, sharesAt, width).set(columns.shares);
  const rows = placesIn(field.height, height);
  // the field is far coarser than the page: two rows share their gains
  const shared = height > SHARED_FROM * field.height ? 2 : 1;
  return {
    kernels,
    gains: new Float32Array(buffer, gainsAt, colours * width),
    gainsAt,
    samples: new Uint8ClampedArray(buffer, samplesAt, colours * width),
    samplesAt,
    out: new Uint8ClampedArray(buffer, outAt, colours * width),
    outAt,
    topsAt,
    moreAt: noiseAt + (white === null ? 0 : planeBytes),
    buffer,
    fill(y) {
      if (y % shared !== 0) return;
      const above = rows.lefts[y]!;
      const below = Math.min(field.height - 1, above + 1);
      for (let c = 0; c < colours; c++) {
        const plane = FIRST_BYTE + c * planeBytes;
        kernels.mixRows(
          plane + 4 * above * field.width,
          plane + 4 * below * field.width,
          rows.shares[y]!,
          field.width,
          lineAt,
        );
        kernels.spreadRow(lineAt, leftsAt, sharesAt, width, gainsAt + 4 * c, 4 * colours);
      }
      if (white === null) return;
      kernels.mixRows(
        noiseAt + 4 * above * field.width,
        noiseAt + 4 * below * field.width,
        rows.shares[y]!,
        field.width,
        lineAt,
      );
      kernels.spreadRow(lineAt, leftsAt, sharesAt, width, topsAt, 4);
    },
  };
}

/**
 * Calls `row` for every row of the page with what its samples are to be multiplied by so that paper becomes `level`: as many
 * to a pixel as there are planes. `row` may start no other kernel.
 */
export function forEachGainRow(
  page: Size,
  field: IlluminationField,
  level: number,
  row: (y: number, gains: Float32Array) => void,
): void {
  const { gains, fill } = gainRows(
    page,
    field,
    field.planes.map(() => level),
  );
  for (let y = 0; y < page.height; y++) {
    fill(y);
    row(y, gains);
  }
}

/** One row through a tone curve of as many steps as paper was given: curve[sample × gain]. */
export function toneRow(
  data: Uint8ClampedArray,
  from: number,
  channels: number,
  gains: Float32Array,
  curve: Uint8ClampedArray,
  out: Uint8ClampedArray,
  to: number,
  colours: number,
): void {
  const last = curve.length - 1;
  for (let k = 0; k < gains.length; from += channels) {
    for (let c = 0; c < colours; c++, k++, to++) {
      const index = data[from + c]! * gains[k]!;
      out[to] = curve[index > last ? last : index | 0]!;
    }
  }
}

/** What is missing from the paper's light in square cells of a page, 255 for all of it: planes of red, green and blue, summed. */
export interface MissingCells {
  readonly width: number;
  readonly height: number;
  /** A cell's side is 2 to the power of this, px. */
  readonly shift: number;
  readonly sums: readonly Float32Array[];
}

/** What is nearer to the paper than this in every channel is paper. */
const PAPER_TOLERANCE = 0.035;
/** Phones bend the transfer curve towards more contrast, some more and some less: so much of that, at a quarter of the scale, is taken back. */
const CONTRAST_TAKEN_BACK = 0.015;
/** Linear light of coded values 0 to 256, in quarter steps. */
const LIGHT = Float32Array.from({ length: 1025 }, (_, i) =>
  toLinear(Math.max(0, i / 1020 - CONTRAST_TAKEN_BACK * Math.sin((i / 1020 - 0.5) * 2 * Math.PI))),
);

/**
 * The page with white at 255 in every channel, and what its colours miss from the paper's light in square cells. Light is what
 * a lens blurs, so its sums keep an ink's colour under any lamp. They are taken before anything is cut off at white: a camera
 * keeps colour in fewer pixels than lightness, so what the paper's tint adds to a stroke it takes from the paper beside it.
 * @param shift - a cell's side is 2 to the power of this, px
 * @returns RGB (grey stays grey, without cells)
 */
export function divideByPaper(
  page: PixelImage,
  field: PaperField,
  white: WhitePoint,
  shift: number,
): { readonly lit: PixelImage; readonly missing: MissingCells | null } {
  const { width, height } = page;
  const colours = field.planes.length === 1 ? 1 : 3;
  const lit = createPixelImage(width, height, colours);
  const cells = { width: (width >> shift) + 1, height: (height >> shift) + 1 };
  const sums = colours === 1 ? [] : [0, 1, 2].map(() => new Float32Array(cells.width * cells.height));
  const cellBytes = roomFor(cells.width);
  const linearBytes = roomFor(LIGHT.length);
  const { kernels, buffer, gainsAt, samples, samplesAt, out, outAt, topsAt, moreAt, fill } = gainRows(
    page,
    field,
    field.planes.map(() => 255),
    { ...white, noise: field.noise },
    linearBytes + 3 * cellBytes,
  );
  new Float32Array(buffer, moreAt, LIGHT.length).set(LIGHT);
  const cellsAt = moreAt + linearBytes;
  const cellRow = sums.map((_, c) => new Float32Array(buffer, cellsAt + c * cellBytes, cells.width));
  for (let y = 0; y < height; y++) {
    fill(y);
    readRow(page, y, samples);
    kernels.scaleRow(samplesAt, gainsAt, samples.length, outAt);
    lit.data.set(out, y * out.length);
    if (colours === 1) continue;
    if (y % (1 << shift) === 0) for (const row of cellRow) row.fill(0);
    kernels.sumMissing(
      samplesAt,
      gainsAt,
      topsAt,
      width,
      shift,
      PAPER_TOLERANCE,
      moreAt,
      cellsAt,
      cellsAt + cellBytes,
      cellsAt + 2 * cellBytes,
    );
    if ((y + 1) % (1 << shift) === 0 || y === height - 1)
      sums.forEach((plane, c) => plane.set(cellRow[c]!, (y >> shift) * cells.width));
  }
  return { lit, missing: colours === 1 ? null : { ...cells, shift, sums } };
}

/** A row without what the page has beside its colours. */
function readRow({ width, channels, data }: PixelImage, y: number, into: Uint8ClampedArray): void {
  const from = y * width * channels;
  if (channels !== 4) into.set(data.subarray(from, from + width * channels));
  else for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) into[3 * x + c] = data[from + 4 * x + c]!;
}

/** What paper is in a plane of shares: brighter is kept, up to 255 / 200. */
export const PAPER_LEVEL = 200;

/** The page's lightness as a share of the paper's, PAPER_LEVEL for paper, one byte a pixel. */
export function lightnessShare(page: PixelImage, field: PaperField): Uint8ClampedArray<ArrayBuffer> {
  const { width, height } = page;
  const result = new Uint8ClampedArray(width * height);
  const weights = field.planes.length === 1 ? [1] : [0.299, 0.587, 0.114];
  const { kernels, gainsAt, samples, samplesAt, out, outAt, fill } = gainRows(
    page,
    field,
    weights.map((weight) => weight * PAPER_LEVEL),
  );
  const shares = out.subarray(0, width);
  for (let y = 0; y < height; y++) {
    fill(y);
    readRow(page, y, samples);
    if (weights.length === 1) kernels.scaleRow(samplesAt, gainsAt, width, outAt);
    else kernels.mixChannels(samplesAt, gainsAt, width, outAt);
    result.set(shares, y * width);
  }
  return result;
}
