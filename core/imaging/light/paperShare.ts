import { LUMA } from '../raster/lightness';
import { withWorkspace, type FloatSlot, type ClampedSlot, type Workspace } from '../kernels/workspace';
import { samplePositions, samplePositionSlots } from '../raster/enlargePlane';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { decodeSrgb } from '../raster/transferCurve';
import type { IlluminationField } from './illuminationField';
import type { PaperField } from './paperField';

/*
 * The page beside its paper. The field is coarser than the page; its inverse is read bilinearly, row by row, and the page's
 * samples are multiplied by it. Only a row of the page is in the kernels' memory at a time.
 */

/** From this many rows to one of the field on, two at a time have the same gains. */
const SHARED_FROM = 1.6;

type Size = Pick<PixelImage, 'width' | 'height'>;

/** The gains of a page's rows, made one row at a time. */
interface GainRows {
  /** What the samples of the row are to be multiplied by so that paper becomes its level, interleaved like them. */
  readonly gains: FloatSlot;
  /** Room for a row of samples without alpha, and for what is made of it. */
  readonly samples: ClampedSlot;
  readonly out: ClampedSlot;
  /** Where paper lies along the row once white is at its level; only filled where there is a white point. */
  readonly tops: FloatSlot;
  /** Fills gains, and tops, for a row of the page. */
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
 */
function gainRows(
  ws: Workspace,
  { width, height }: Size,
  field: IlluminationField,
  levels: readonly number[],
  white: (WhitePoint & { readonly noise: Float32Array }) | null = null,
): GainRows {
  const { kernels } = ws;
  const colours = field.planes.length;
  const noise = white === null ? null : ws.of(white.noise);
  const planes = field.planes.map((plane, c) => {
    const slot = ws.of(plane);
    if (white === null || noise === null) kernels.invertPlane(slot.at, plane.length, levels[c]!);
    else kernels.invertToWhite(slot.at, noise.at, plane.length, levels[c]!, white.below, white.least, white.most);
    return slot;
  });
  if (white !== null && noise !== null)
    kernels.paperTops(noise.at, noise.length, levels[0]!, white.below, white.least, white.most);
  const columns = samplePositionSlots(ws, field.width, width);
  const rows = samplePositions(field.height, height);
  const line = ws.f32(field.width + 1);
  const gains = ws.f32(colours * width);
  const tops = ws.f32(width);
  /** One line of a plane of the field, at a row of the page, read at the page's columns. */
  const resample = (plane: FloatSlot, y: number, into: FloatSlot, first: number, step: number): void => {
    const above = rows.lefts[y]!;
    kernels.lerpRows(
      plane.addressOf(above * field.width),
      plane.addressOf(Math.min(field.height - 1, above + 1) * field.width),
      rows.shares[y]!,
      field.width,
      line.at,
    );
    kernels.resampleRow(
      line.at,
      columns.lefts.at,
      columns.shares.at,
      width,
      into.addressOf(first),
      step * Float32Array.BYTES_PER_ELEMENT,
    );
  };
  // the field is far coarser than the page: two rows share their gains
  const shared = height > SHARED_FROM * field.height ? 2 : 1;
  let filled = -1;
  return {
    gains,
    samples: ws.clamped(colours * width),
    out: ws.clamped(colours * width),
    tops,
    fill(y) {
      const row = y - (y % shared);
      if (row === filled) return;
      filled = row;
      planes.forEach((plane, k) => resample(plane, row, gains, k, colours));
      if (noise !== null) resample(noise, row, tops, 0, 1);
    },
  };
}

/**
 * Calls `row` for every row of the page with what its samples are to be multiplied by so that paper becomes `level`: as many
 * to a pixel as there are planes. The gains are the callback's own until it returns.
 */
export function forEachGainRow(
  page: Size,
  field: IlluminationField,
  level: number,
  row: (y: number, gains: Float32Array) => void,
): void {
  withWorkspace((ws) => {
    const { gains, fill } = gainRows(
      ws,
      page,
      field,
      field.planes.map(() => level),
    );
    const copied = new Float32Array(gains.length);
    for (let y = 0; y < page.height; y++) {
      fill(y);
      gains.copyInto(copied, 0);
      row(y, copied);
    }
  });
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
export interface AbsorbedLight {
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
  decodeSrgb(Math.max(0, i / 1020 - CONTRAST_TAKEN_BACK * Math.sin((i / 1020 - 0.5) * 2 * Math.PI))),
);

/**
 * The page with white at 255 in every channel, and what its colours miss from the paper's light in square cells. Light is what
 * a lens blurs, so its sums keep an ink's colour under any lamp. They are taken before anything is cut off at white: a camera
 * keeps colour in fewer pixels than lightness, so what the paper's tint adds to a stroke it takes from the paper beside it.
 * @param shift - a cell's side is 2 to the power of this, px
 * @returns RGB (grey stays grey, without cells)
 */
export function divideByBackground(
  page: PixelImage,
  field: PaperField,
  white: WhitePoint,
  shift: number,
): { readonly lit: PixelImage; readonly absorbed: AbsorbedLight | null } {
  const { width, height } = page;
  const colours = field.planes.length === 1 ? 1 : 3;
  const lit = createPixelImage(width, height, colours);
  const cells = { width: (width >> shift) + 1, height: (height >> shift) + 1 };
  const sums = colours === 1 ? [] : [0, 1, 2].map(() => new Float32Array(cells.width * cells.height));
  withWorkspace((ws) => {
    const { gains, samples, out, tops, fill } = gainRows(
      ws,
      page,
      field,
      field.planes.map(() => 255),
      { ...white, noise: field.noise },
    );
    const light = ws.of(LIGHT);
    const cellRow = [ws.f32(cells.width), ws.f32(cells.width), ws.f32(cells.width)] as const;
    for (let y = 0; y < height; y++) {
      fill(y);
      readRow(page, y, samples);
      ws.kernels.scaleRow(samples.at, gains.at, samples.length, out.at);
      out.copyInto(lit.data, y * out.length);
      if (colours === 1) continue;
      if (y % (1 << shift) === 0) for (const row of cellRow) row.fill(0);
      ws.kernels.sumAbsorbed(
        samples.at,
        gains.at,
        tops.at,
        width,
        shift,
        PAPER_TOLERANCE,
        light.at,
        cellRow[0].at,
        cellRow[1].at,
        cellRow[2].at,
      );
      if ((y + 1) % (1 << shift) === 0 || y === height - 1)
        sums.forEach((plane, k) => cellRow[k]!.copyInto(plane, (y >> shift) * cells.width));
    }
  });
  return { lit, absorbed: colours === 1 ? null : { ...cells, shift, sums } };
}

/** A row without what the page has beside its colours. */
function readRow({ width, channels, data }: PixelImage, y: number, into: ClampedSlot): void {
  const from = y * width * channels;
  if (channels !== 4) into.set(data.subarray(from, from + width * channels));
  else
    into.view((row) => {
      for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) row[3 * x + c] = data[from + 4 * x + c]!;
    });
}

/** What paper is in a plane of shares: brighter is kept, up to 255 / 200. */
export const PAPER_LEVEL = 200;

/** The page's lightness as a share of the paper's, PAPER_LEVEL for paper, one byte a pixel. */
export function normaliseLightness(page: PixelImage, field: PaperField): Uint8ClampedArray<ArrayBuffer> {
  const { width, height } = page;
  const result = new Uint8ClampedArray(width * height);
  const weights = field.planes.length === 1 ? [1] : LUMA;
  withWorkspace((ws) => {
    const { gains, samples, out, fill } = gainRows(
      ws,
      page,
      field,
      weights.map((weight) => weight * PAPER_LEVEL),
    );
    for (let y = 0; y < height; y++) {
      fill(y);
      readRow(page, y, samples);
      if (weights.length === 1) ws.kernels.scaleRow(samples.at, gains.at, width, out.at);
      else ws.kernels.mixChannels(samples.at, gains.at, width, out.at);
      out.copyInto(result, y * width, width);
    }
  });
  return result;
}
