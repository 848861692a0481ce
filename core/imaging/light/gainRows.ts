import { withWorkspace, type ClampedSlot, type FloatSlot, type Workspace } from '../kernels/workspace';
import { samplePositions, samplePositionSlots } from '../raster/enlargePlane';
import type { PixelImage } from '../raster/pixelImage';
import type { IlluminationField } from './illuminationField';

/*
 * The page beside its paper. The field is coarser than the page; its inverse is read bilinearly, row by row, and the page's
 * samples are multiplied by it. Only a row of the page is in the kernels' memory at a time.
 */

/** From this many rows to one of the field on, two at a time have the same gains. */
const SHARED_FROM = 1.6;

type Size = Pick<PixelImage, 'width' | 'height'>;

/** The gains of a page's rows, made one row at a time. */
export interface GainRows {
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
 * The gains that divide a page by its background.
 * @param levels - what paper is to become in each channel
 * @param white - where it is not the paper that becomes it
 */
export function gainRows(
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

/** A row without what the page has beside its colours. */
export function readRow({ width, channels, data }: PixelImage, y: number, into: ClampedSlot): void {
  const from = y * width * channels;
  if (channels !== 4) into.set(data.subarray(from, from + width * channels));
  else
    into.view((row) => {
      for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) row[3 * x + c] = data[from + 4 * x + c]!;
    });
}
