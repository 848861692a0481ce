import { withWorkspace, type Workspace } from '../kernels/workspace';
import type { AbsorbedLight } from '../light/divideByBackground';
import { boxBlur } from '../raster/boxBlur';
import type { PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { LEVEL_OF_LIGHT, LIGHT_OF_LEVEL, LIGHT_STEPS } from '../raster/transferCurve';
import { smoothGrain } from './inkPlane';
import type { StrokeGain } from './strokeGain';

/*
 * A blurred stroke is paper and ink mixed in linear light: (1 - ink) × coverage is missing from white in each channel, and
 * the ratio between channels does not depend on coverage. So the coverage is restored, sharper and firmer, from the lightness,
 * and all channels scaled alike: thin strokes get their weight back and keep their hue. A few rows of the
 * page are in the kernels' memory at a time.
 */

/** From this size on an ink's colour is gathered in cells of 4 × 4 pixels, below in cells of 2 × 2; over about 11 px either way. */
const LARGE_LONG_SIDE_PX = 1600;
/** The darkest ink still sends some light back. */
const DEEPEST = 0.98;
/** Difference from grey, as a share of the ink's depth, up to which it is taken for black. */
const NEUTRAL_TO = 0.04;
/** The same, from which on it is taken for a colour as it is. */
const COLOURED_FROM = 0.16;
/** Steps of the table of firmed coverage. */
const FIRMED_STEPS = 1024;

/** How fine the cells are in which an ink's colour is gathered; over about 11 px either way. */
export const cellShift = ({ width, height }: Pick<PixelImage, 'width' | 'height'>): number =>
  Math.max(width, height) > LARGE_LONG_SIDE_PX ? 2 : 1;

/**
 * Restores strokes, in place.
 * @param page - RGB or grey on white paper
 * @param missing - what its colours miss from the paper; null for grey
 * @param gain - how strongly
 */
export function restoreCoverageInto(page: PixelImage, missing: AbsorbedLight | null, gain: StrokeGain): void {
  const { width, height } = page;
  const depth = withWorkspace(depthOf, page);
  const smooth = smoothGrain({ width, height, depth });
  withWorkspace(restore, page, { depth, smooth }, missing === null ? NO_CELLS : inkCells(missing), gain);
  releaseBuffers(depth, smooth);
}

/**
 * The ink's colour around every place: planes of what it takes away of white in red, green and blue beside its lightness, and
 * the coverage at which the channel that it takes most of is all but gone.
 */
interface InkCells {
  readonly width: number;
  readonly shift: number;
  readonly planes: readonly Float32Array[];
}

/** Colours are read from sums over a few pixels: across a thin stroke colour runs into the paper, but blur takes nothing away from sums, and they calm its noise too. */
const inkCells = ({ width, height, shift, sums }: AbsorbedLight): InkCells => ({
  width,
  shift,
  planes: coloursOf(sums.map((plane) => boxBlur(plane, width, height, { radius: shift === 2 ? 1 : 2 }))),
});

function depthOf(ws: Workspace, { width, height, channels, data }: PixelImage): Uint8ClampedArray<ArrayBuffer> {
  const depth = new Uint8ClampedArray(width * height);
  const light = ws.of(LIGHT_OF_LEVEL);
  const pixels = ws.clamped(width * channels);
  const row = ws.clamped(width);
  for (let y = 0; y < height; y++) {
    pixels.set(data.subarray(y * pixels.length, (y + 1) * pixels.length));
    ws.kernels.depthOf(pixels.at, width, channels, light.at, row.at);
    row.copyInto(depth, y * width);
  }
  return depth;
}

/** Black ink under a lamp keeps a breath of it, where its colour ran into the paper: what is nearly grey becomes grey. */
function coloursOf(sums: readonly Float32Array[]): Float32Array[] {
  const count = sums[0]!.length;
  return withWorkspace((ws) => {
    const [red, green, blue] = [ws.of(sums[0]!), ws.of(sums[1]!), ws.of(sums[2]!)];
    const most = ws.f32(count);
    ws.kernels.inkShares(red.at, green.at, blue.at, most.at, count, NEUTRAL_TO, COLOURED_FROM, DEEPEST);
    return [red, green, blue, most].map((plane) => plane.copy());
  });
}

/** Grey has none. */
const NO_CELLS: InkCells = { width: 0, shift: 0, planes: [] };

function restore(
  ws: Workspace,
  { width, height, channels, data }: PixelImage,
  { depth, smooth }: { readonly depth: Uint8ClampedArray; readonly smooth: Uint8ClampedArray },
  { width: w, shift, planes }: InkCells,
  { sharpened, firmness }: StrokeGain,
): void {
  const firmed = ws.of(
    Float32Array.from({ length: FIRMED_STEPS + 1 }, (_, i) => DEEPEST * (1 - (1 - i / FIRMED_STEPS) ** firmness)),
  );
  const coded = ws.of(LEVEL_OF_LIGHT);
  const cells = [ws.f32(w), ws.f32(w), ws.f32(w), ws.f32(w)] as const;
  const depths = ws.clamped(width);
  const smooths = ws.clamped(width);
  const pixels = ws.clamped(width * channels);
  for (let y = 0; y < height; y++) {
    const row = y * width * channels;
    depths.set(depth.subarray(y * width, (y + 1) * width));
    smooths.set(smooth.subarray(y * width, (y + 1) * width));
    pixels.set(data.subarray(row, row + pixels.length));
    const cellRow = (y >> shift) * w;
    planes.forEach((plane, c) => cells[c]!.set(plane.subarray(cellRow, cellRow + w)));
    ws.kernels.restoreRow(
      pixels.at,
      depths.at,
      smooths.at,
      width,
      channels,
      sharpened,
      firmed.at,
      coded.at,
      LIGHT_STEPS,
      cells[0].at,
      cells[1].at,
      cells[2].at,
      cells[3].at,
      shift,
    );
    pixels.copyInto(data, row);
  }
}
