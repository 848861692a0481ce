import type { MissingCells } from '../light/paperShare';
import { boxBlur } from '../raster/boxBlur';
import { COVERAGE_KERNELS } from '../kernels/coverageKernels';
import type { PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { LEVEL_OF_LIGHT, LIGHT_OF_LEVEL, LIGHT_STEPS } from '../raster/transferCurve';
import { FIRST_BYTE, roomFor, scratchKernels } from '../kernels/startKernels';
import { smoothGrain } from './inkPlane';

/*
 * A blurred stroke is paper and ink mixed in linear light: (1 - ink) × coverage is missing from white in each channel, and
 * the ratio between channels does not depend on coverage. So the coverage is restored, sharper and firmer, from the lightness,
 * and all channels scaled alike: thin strokes get their weight back and keep their hue. The loops are WebAssembly
 * (kernels/coverage.as.ts); a few rows of the page are there at a time.
 */

/** How much of the difference to its neighbours a stroke gains. */
const SHARPENED = 3.5;
/**
 * Coverage c comes out as 1 - (1 - c) to the power of this: strokes too thin for the lens get their weight back. On a noisy
 * page, where nothing is sharpened, they need more.
 */
const FIRMNESS = 2.1;
const NOISY_FIRMNESS = 2.5;
/** From this size on an ink's colour is gathered in cells of 4 × 4 pixels, below in cells of 2 × 2; over about 11 px either way. */
const LARGE_LONG_SIDE_PX = 1600;
/** The darkest ink still sends some light back. */
const DEEPEST = 0.98;
/** Difference from grey, as a share of the ink's depth, up to which it is taken for black, and from which for a colour. */
const NEUTRAL_TO = 0.04;
const COLOURED_FROM = 0.16;
const FIRMED_STEPS = 1024;

interface CoverageKernels {
  depthOf(pixels: number, count: number, channels: number, linear: number, depth: number): void;
  inkShares(
    red: number,
    green: number,
    blue: number,
    most: number,
    count: number,
    neutralTo: number,
    colouredFrom: number,
    deepest: number,
  ): void;
  restoreRow(
    pixels: number,
    depth: number,
    smooth: number,
    width: number,
    channels: number,
    sharpened: number,
    firmed: number,
    coded: number,
    steps: number,
    red: number,
    green: number,
    blue: number,
    most: number,
    shift: number,
  ): void;
}
const start = scratchKernels<CoverageKernels>(COVERAGE_KERNELS);

/** How fine the cells are in which an ink's colour is gathered; over about 11 px either way. */
export const cellShift = ({ width, height }: Pick<PixelImage, 'width' | 'height'>): number =>
  Math.max(width, height) > LARGE_LONG_SIDE_PX ? 2 : 1;

/**
 * Restores strokes in place.
 * @param page - RGB or grey on white paper
 * @param missing - what its colours miss from the paper; null for grey
 * @param detail - its size over that at which it would show all the photo's detail: a smaller copy has lost the blur that is to be undone
 * @param calm - how far it may be sharpened without raising its noise, 0 to 1
 */
export function restoreCoverage(page: PixelImage, missing: MissingCells | null, detail: number, calm: number): void {
  const { width, height } = page;
  const depth = depthOf(page);
  const smooth = smoothGrain({ width, height, depth });
  restore(
    page,
    depth,
    smooth,
    missing === null ? null : inkCells(missing),
    SHARPENED * detail ** 2 * calm,
    1 + (NOISY_FIRMNESS + (FIRMNESS - NOISY_FIRMNESS) * calm - 1) * detail,
  );
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
const inkCells = ({ width, height, shift, sums }: MissingCells): InkCells => ({
  width,
  shift,
  planes: coloursOf(sums.map((plane) => boxBlur(plane, width, height, shift === 2 ? 1 : 2, 1))),
});

function depthOf({ width, height, channels, data }: PixelImage): Uint8ClampedArray<ArrayBuffer> {
  const depth = new Uint8ClampedArray(width * height);
  const pixelsAt = FIRST_BYTE + roomFor(LIGHT_OF_LEVEL.length);
  const depthAt = pixelsAt + width * channels;
  const { kernels, buffer } = start(depthAt + width);
  new Float32Array(buffer, FIRST_BYTE, LIGHT_OF_LEVEL.length).set(LIGHT_OF_LEVEL);
  const pixels = new Uint8ClampedArray(buffer, pixelsAt, width * channels);
  const row = new Uint8ClampedArray(buffer, depthAt, width);
  for (let y = 0; y < height; y++) {
    pixels.set(data.subarray(y * pixels.length, (y + 1) * pixels.length));
    kernels.depthOf(pixelsAt, width, channels, FIRST_BYTE, depthAt);
    depth.set(row, y * width);
  }
  return depth;
}

/** Black ink under a lamp keeps a breath of it, where its colour ran into the paper: what is nearly grey becomes grey. */
function coloursOf(sums: readonly Float32Array[]): Float32Array[] {
  const count = sums[0]!.length;
  const bytes = roomFor(count);
  const { kernels, buffer } = start(FIRST_BYTE + 4 * bytes);
  sums.forEach((plane, c) => new Float32Array(buffer, FIRST_BYTE + c * bytes, count).set(plane));
  kernels.inkShares(
    FIRST_BYTE,
    FIRST_BYTE + bytes,
    FIRST_BYTE + 2 * bytes,
    FIRST_BYTE + 3 * bytes,
    count,
    NEUTRAL_TO,
    COLOURED_FROM,
    DEEPEST,
  );
  return [0, 1, 2, 3].map((c) => new Float32Array(buffer, FIRST_BYTE + c * bytes, count).slice());
}

function restore(
  { width, height, channels, data }: PixelImage,
  depth: Uint8ClampedArray,
  smooth: Uint8ClampedArray,
  ink: InkCells | null,
  sharpened: number,
  firmness: number,
): void {
  const { width: w, shift, planes } = ink ?? { width: 0, shift: 0, planes: [] };
  const firmedAt = FIRST_BYTE;
  const codedAt = firmedAt + roomFor(FIRMED_STEPS + 1);
  const cellsAt = codedAt + roomFor(LEVEL_OF_LIGHT.length / 4);
  const cellBytes = roomFor(w);
  const depthAt = cellsAt + 4 * cellBytes;
  const smoothAt = depthAt + width;
  const pixelsAt = smoothAt + width;
  const { kernels, buffer } = start(pixelsAt + width * channels);
  const bytes = new Uint8ClampedArray(buffer);
  new Float32Array(buffer, firmedAt, FIRMED_STEPS + 1).set(
    Float32Array.from({ length: FIRMED_STEPS + 1 }, (_, i) => DEEPEST * (1 - (1 - i / FIRMED_STEPS) ** firmness)),
  );
  bytes.set(LEVEL_OF_LIGHT, codedAt);
  const pixels = bytes.subarray(pixelsAt, pixelsAt + width * channels);
  const cells = planes.map((_, c) => new Float32Array(buffer, cellsAt + c * cellBytes, w));
  for (let y = 0; y < height; y++) {
    const row = y * width * channels;
    bytes.set(depth.subarray(y * width, (y + 1) * width), depthAt);
    bytes.set(smooth.subarray(y * width, (y + 1) * width), smoothAt);
    pixels.set(data.subarray(row, row + pixels.length));
    const cellRow = (y >> shift) * w;
    planes.forEach((plane, c) => cells[c]!.set(plane.subarray(cellRow, cellRow + w)));
    kernels.restoreRow(
      pixelsAt,
      depthAt,
      smoothAt,
      width,
      channels,
      sharpened,
      firmedAt,
      codedAt,
      LIGHT_STEPS,
      cellsAt,
      cellsAt + cellBytes,
      cellsAt + 2 * cellBytes,
      cellsAt + 3 * cellBytes,
      shift,
    );
    data.set(pixels, row);
  }
}
