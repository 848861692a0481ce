import { fieldCells } from '../light/fieldCells';
import type { PageShape } from '../flatten/flattenPage';
import { photoToPage } from '../flatten/placeOnPage';
import { distance } from '../geometry/point';
import { estimateIlluminationField, type IlluminationField } from '../light/illuminationField';
import { forEachGainRow } from '../light/gainRows';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import type { Mend } from './mend';
import { quantile } from '../raster/quantile';

/*
 * Paints away what lies on the page. Paper is put in its place: the light comes from the illumination field with the
 * mended place left out of it, the paper's own share of that light from what is seen to the left and right, above and
 * below. A printed rule runs on beyond the mend in its row (or column) for longer than any stroke of writing, so the
 * median along the row is the rule's tone where there is one, and the paper's where there is none. Grain is taken from
 * beside the mend, mirrored.
 * What was written under a thumb cannot be known.
 */

/** How far beside a mend its row and column are read, as a share of the long side: 12 mm of A4. */
const READ_ALONG = 0.04;
/** Grain further from the median than this is not grain, as a share of the paper. */
const GRAIN = 0.035;
/** Samples beside a mend below which their median says nothing. */
const LEAST_SEEN = 4;
/** A row is a rule where it lies below the paper by more than this. */
const RULE_FROM = 0.012;

/**
 * Fills mended places with paper.
 * @param page - flat page, grey or RGB; left as it is
 * @param shape - how the page lies in its photo, in the px the mends are in
 * @returns the page itself, and no field, where nothing of the mends lies on it
 */
export function mendPage(
  page: PixelImage,
  shape: Pick<PageShape, 'corners' | 'sheet'>,
  mends: readonly Mend[],
): MendedPage {
  const mask = paintMask(page, shape, mends);
  if (mask === null) return { page, illumination: null };
  const field = estimateIlluminationField(page, mask);
  return { page: fillWithPaper(page, mask, field), illumination: withoutCovered(field, mask) };
}

export interface MendedPage {
  readonly page: PixelImage;
  /** The page's light, as it had to be estimated to mend it. */
  readonly illumination: IlluminationField | null;
}

/** The field of the page once it is mended: what was covered is paper now. */
function withoutCovered(field: IlluminationField, mask: PixelImage): IlluminationField {
  const nonPaper = field.nonPaper.slice();
  const { columnOf, rowOf } = fieldCells(field, mask);
  for (let y = 0, i = 0; y < field.height; y++)
    for (let x = 0; x < field.width; x++, i++) if (mask.data[rowOf[y]! + columnOf[x]!] !== 0) nonPaper[i] = 0;
  return { ...field, nonPaper };
}

/** 255 where a brush stroke covers the page; null where none does. */
function paintMask(
  { width, height }: PixelImage,
  shape: Pick<PageShape, 'corners' | 'sheet'>,
  mends: readonly Mend[],
): PixelImage | null {
  if (mends.length === 0) return null;
  const toPage = photoToPage(shape);
  const place = (p: { x: number; y: number }): { x: number; y: number } => {
    const { x, y } = toPage(p);
    return { x: x * width, y: y * height };
  };
  const mask = createPixelImage(width, height, 1);
  let any = false;
  for (const { points, radius } of mends) {
    const places = points.map(place);
    const reach = distance(places[0]!, place({ x: points[0]!.x + radius, y: points[0]!.y }));
    const radiusPx = Math.max(1, Math.min(reach, Math.max(width, height)));
    for (let k = 0; k < places.length; k++)
      any = paintLine(mask, places[Math.max(0, k - 1)]!, places[k]!, radiusPx) || any;
  }
  return any ? mask : null;
}

/** Paints a line with round ends. */
function paintLine(
  { width, height, data }: PixelImage,
  a: { x: number; y: number },
  b: { x: number; y: number },
  radius: number,
): boolean {
  const left = Math.max(0, Math.floor(Math.min(a.x, b.x) - radius));
  const right = Math.min(width - 1, Math.ceil(Math.max(a.x, b.x) + radius));
  const top = Math.max(0, Math.floor(Math.min(a.y, b.y) - radius));
  const bottom = Math.min(height - 1, Math.ceil(Math.max(a.y, b.y) + radius));
  const dx = b.x - a.x;
  const dy = b.y - a.y;
  const length = dx * dx + dy * dy;
  let any = false;
  for (let y = top; y <= bottom; y++) {
    for (let x = left; x <= right; x++) {
      const px = x + 0.5 - a.x;
      const py = y + 0.5 - a.y;
      const t = length === 0 ? 0 : Math.min(1, Math.max(0, (px * dx + py * dy) / length));
      if ((px - t * dx) ** 2 + (py - t * dy) ** 2 > radius * radius) continue;
      data[y * width + x] = 255;
      any = true;
    }
  }
  return any;
}

function fillWithPaper(page: PixelImage, mask: PixelImage, field: IlluminationField): PixelImage {
  const { width, height, channels } = page;
  const colours = channels === 1 ? 1 : 3;
  const shares = Array.from({ length: colours }, () => new Float32Array(width * height));
  forEachGainRow(page, field, 1, (y, gains) => {
    for (let c = 0; c < colours; c++)
      for (let x = 0, i = y * width; x < width; x++, i++)
        shares[c]![i] = page.data[i * channels + c]! * gains[x * colours + c]!;
  });
  const out = createPixelImage(width, height, channels);
  out.data.set(page.data);
  const reach = Math.max(8, Math.round(READ_ALONG * Math.max(width, height)));
  const filled = shares.map((plane) => fillPlane(plane, mask, reach));
  forEachGainRow(page, field, 1, (y, gains) => {
    for (let c = 0; c < colours; c++)
      for (let x = 0, i = y * width; x < width; x++, i++)
        if (mask.data[i] !== 0) out.data[i * channels + c] = filled[c]![i]! / gains[x * colours + c]!;
  });
  return out;
}

/** Shares of the paper's light for every masked sample. */
function fillPlane(plane: Float32Array, mask: PixelImage, reach: number): Float32Array {
  const { width, height } = mask;
  const out = plane.slice();
  const paper = paperShareAround(plane, mask);
  const across = medianRuns(plane, mask, reach, true);
  const down = medianRuns(plane, mask, reach, false);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (mask.data[i] === 0) continue;
      const darker = Math.min(across.medians[i]!, down.medians[i]!);
      const base = darker < paper - RULE_FROM ? darker : paper;
      const own = plane[across.mirrors[i]!]!;
      const grain = own - across.medians[i]!;
      out[i] = base + (Math.abs(grain) < GRAIN && across.mirrors[i] !== i ? grain : 0);
    }
  }
  return out;
}

/** The commonest share outside the mask. */
function paperShareAround(plane: Float32Array, { data }: PixelImage): number {
  const counts = new Uint32Array(300);
  for (let i = 0; i < plane.length; i += 7) if (data[i] === 0) counts[Math.min(299, Math.round(plane[i]! * 200))]!++;
  return counts.indexOf(Math.max(...counts)) / 200;
}

/** For each masked sample the median of what lies beside its run along the row (or column), between both sides by nearness, and the sample mirrored at the nearer end. */
function medianRuns(
  plane: Float32Array,
  { width, height, data }: PixelImage,
  reach: number,
  rows: boolean,
): { medians: Float32Array; mirrors: Int32Array } {
  const medians = new Float32Array(plane.length).fill(Infinity);
  const mirrors = new Int32Array(rows ? plane.length : 0);
  const lines = rows ? height : width;
  const length = rows ? width : height;
  const step = rows ? 1 : width;
  for (let line = 0; line < lines; line++) {
    const start = rows ? line * width : line;
    /** The median of what is seen from one place of the line to another; null where that is too little. */
    const medianIn = (from: number, to: number): number | null => {
      const values: number[] = [];
      for (let k = Math.max(0, from); k < Math.min(length, to); k++)
        if (data[start + k * step] === 0) values.push(plane[start + k * step]!);
      return values.length < LEAST_SEEN ? null : quantile(values, 0.5);
    };
    for (let k = 0; k < length; k++) {
      if (data[start + k * step] === 0) continue;
      let end = k;
      while (end < length && data[start + end * step] !== 0) end++;
      const before = medianIn(k - reach, k);
      const after = medianIn(end, end + reach);
      for (let j = k; j < end; j++) {
        const at = start + j * step;
        const t = before === null ? 1 : after === null ? 0 : (j - k + 0.5) / (end - k);
        if (before !== null || after !== null) medians[at] = (before ?? 0) * (1 - t) + (after ?? 0) * t;
        if (!rows) continue;
        const mirror =
          (t < 0.5 && k > 0) || end >= length
            ? k - 1 - Math.min(k - 1, j - k)
            : end + Math.min(length - 1 - end, end - 1 - j);
        mirrors[at] = mirror >= 0 && mirror < length && data[start + mirror] === 0 ? start + mirror : at;
      }
      k = end;
    }
  }
  return { medians, mirrors };
}
