import { withWorkspace, type Workspace } from '../kernels/workspace';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { decodeSrgb } from '../raster/transferCurve';
import { GainRows, readRow, type WhitePoint } from './gainRows';
import type { PaperField } from './paperField';

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
  const absorbed = { ...cells, shift, sums };
  withWorkspace(divideRows, page, field, white, { lit, absorbed });
  return { lit, absorbed: colours === 1 ? null : absorbed };
}

/** Fills the lit page and, where it has colours, the sums of what is absorbed. */
function divideRows(
  ws: Workspace,
  page: PixelImage,
  field: PaperField,
  white: WhitePoint,
  { lit, absorbed }: { readonly lit: PixelImage; readonly absorbed: AbsorbedLight },
): void {
  const { width, height } = page;
  const { width: across, shift, sums } = absorbed;
  const rows = new GainRows(
    ws,
    page,
    field,
    field.planes.map(() => 255),
    { ...white, noise: field.noise },
  );
  const { gains, samples, out, tops } = rows;
  const light = ws.of(LIGHT);
  const cellRow = [ws.f32(across), ws.f32(across), ws.f32(across)] as const;
  for (let y = 0; y < height; y++) {
    rows.fill(y);
    readRow(page, y, samples);
    ws.kernels.scaleRow(samples.at, gains.at, samples.length, out.at);
    out.copyInto(lit.data, y * out.length);
    if (sums.length === 0) continue;
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
      for (const [k, row] of cellRow.entries()) row.copyInto(sums[k]!, (y >> shift) * across);
  }
}
