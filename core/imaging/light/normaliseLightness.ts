import { withWorkspace, type Workspace } from '../kernels/workspace';
import { LUMA } from '../raster/lightness';
import type { PixelImage } from '../raster/pixelImage';
import { GainRows, readRow } from './gainRows';
import type { PaperField } from './paperField';

/** What paper is in a plane of shares: brighter is kept, up to 255 / 200. */
export const PAPER_LEVEL = 200;

/** The page's lightness as a share of the paper's, PAPER_LEVEL for paper, one byte a pixel. */
export const normaliseLightness = (page: PixelImage, field: PaperField): Uint8ClampedArray<ArrayBuffer> =>
  withWorkspace(normaliseRows, page, field);

function normaliseRows(ws: Workspace, page: PixelImage, field: PaperField): Uint8ClampedArray<ArrayBuffer> {
  const { width, height } = page;
  const result = new Uint8ClampedArray(width * height);
  const weights = field.planes.length === 1 ? [1] : LUMA;
  const rows = new GainRows(
    ws,
    page,
    field,
    weights.map((weight) => weight * PAPER_LEVEL),
  );
  const { gains, samples, out } = rows;
  for (let y = 0; y < height; y++) {
    rows.fill(y);
    readRow(page, y, samples);
    if (weights.length === 1) ws.kernels.scaleRow(samples.at, gains.at, width, out.at);
    else ws.kernels.mixChannels(samples.at, gains.at, width, out.at);
    out.copyInto(result, y * width, width);
  }
  return result;
}
