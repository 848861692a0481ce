import type { Address, Kernels } from '../kernels/kernels';
import { withWorkspace, type ClampedSlot, type FloatSlot, type Workspace } from '../kernels/workspace';
import { samplePositions, samplePositionSlots, type SamplePositions } from '../raster/enlargePlane';
import type { PixelImage } from '../raster/pixelImage';
import type { IlluminationField } from './illuminationField';

/*
 * The page beside its paper. The field is coarser than the page; its inverse is read bilinearly, row by row, and the page's
 * samples are multiplied by it. Only a row of the page is in the kernels' memory at a time.
 */

/** From this many rows to one of the field on, two at a time have the same gains. */
const SHARED_FROM = 1.6;

type Size = Pick<PixelImage, 'width' | 'height'>;

/** What counts as white: the paper less so many standard deviations of its noise, as a share of it no less and no more than these. */
export interface WhitePoint {
  readonly below: number;
  readonly least: number;
  readonly most: number;
}

/** The gains that divide a page's rows by its background, made one row at a time. */
export class GainRows {
  /** What the samples of the row are to be multiplied by so that paper becomes its level, interleaved like them. */
  readonly gains: FloatSlot;
  /** Room for a row of samples without alpha, and for what is made of it. */
  readonly samples: ClampedSlot;
  readonly out: ClampedSlot;
  /** Where paper lies along the row once white is at its level; only filled where there is a white point. */
  readonly tops: FloatSlot;
  private readonly kernels: Kernels;
  private readonly planes: readonly FloatSlot[];
  private readonly noise: FloatSlot | null;
  private readonly columns: ReturnType<typeof samplePositionSlots>;
  private readonly rows: SamplePositions;
  /** Room for a line of the field. */
  private readonly line: FloatSlot;
  private readonly shared: number;
  private filled = -1;

  /**
   * @param levels - what paper is to become in each channel
   * @param white - where it is not the paper that becomes it
   */
  constructor(
    ws: Workspace,
    private readonly page: Size,
    private readonly field: IlluminationField,
    levels: readonly number[],
    white: (WhitePoint & { readonly noise: Float32Array }) | null = null,
  ) {
    const { kernels } = ws;
    this.kernels = kernels;
    const noise = white === null ? null : ws.of(white.noise);
    this.planes = field.planes.map((plane, c) => {
      const slot = ws.of(plane);
      if (white === null || noise === null) kernels.invertPlane(slot.at, plane.length, levels[c]!);
      else kernels.invertToWhite(slot.at, noise.at, plane.length, levels[c]!, white.below, white.least, white.most);
      return slot;
    });
    if (white !== null && noise !== null)
      kernels.paperTops(noise.at, noise.length, levels[0]!, white.below, white.least, white.most);
    this.noise = noise;
    this.columns = samplePositionSlots(ws, field.width, page.width);
    this.rows = samplePositions(field.height, page.height);
    this.line = ws.f32(field.width + 1);
    const colours = field.planes.length;
    this.gains = ws.f32(colours * page.width);
    this.samples = ws.clamped(colours * page.width);
    this.out = ws.clamped(colours * page.width);
    this.tops = ws.f32(page.width);
    // the field is far coarser than the page: two rows share their gains
    this.shared = page.height > SHARED_FROM * field.height ? 2 : 1;
  }

  /** Fills gains, and tops, for a row of the page. */
  fill(y: number): void {
    const row = y - (y % this.shared);
    if (row === this.filled) return;
    this.filled = row;
    for (let c = 0; c < this.planes.length; c++)
      this.read(this.planes[c]!, row, this.gains.addressOf(c), this.planes.length);
    if (this.noise !== null) this.read(this.noise, row, this.tops.at, 1);
  }

  /** Writes one line of a plane of the field, at a row of the page and its columns, every so many values. */
  private read(plane: FloatSlot, y: number, into: Address, every: number): void {
    const { kernels, field, columns, rows, line } = this;
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
      this.page.width,
      into,
      every * Float32Array.BYTES_PER_ELEMENT,
    );
  }
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
    const rows = new GainRows(
      ws,
      page,
      field,
      field.planes.map(() => level),
    );
    const copied = new Float32Array(rows.gains.length);
    for (let y = 0; y < page.height; y++) {
      rows.fill(y);
      rows.gains.copyInto(copied, 0);
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
