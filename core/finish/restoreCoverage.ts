import { boxBlur } from '../raster/boxBlur';
import { COVERAGE_KERNELS } from '../raster/coverageKernels';
import type { PixelImage } from '../raster/pixelImage';
import { FIRST_BYTE, roomFor, scratchKernels } from '../raster/startKernels';
import { smoothGrain } from './inkPlane';

/*
 * A blurred stroke is paper and ink mixed in linear light: (1 - ink) × coverage is missing from white in each channel, and
 * the ratio between channels does not depend on coverage. So the coverage is restored, sharper and firmer, from the lightness,
 * and all channels scaled alike: thin strokes get their weight back and keep their hue. The loops are WebAssembly
 * (kernels/coverage.as.ts); a few rows of the page are there at a time.
 */

/** How much of the difference to its neighbours a stroke gains. */
const SHARPENED = 3.5;
/** Coverage c comes out as 1 - (1 - c) to the power of this: strokes too thin for the lens get their weight back. */
const FIRMNESS = 2.1;
/** From this size on an ink's colour is gathered in cells of 4 × 4 pixels, below in cells of 2 × 2; over about 11 px either way. */
const LARGE_LONG_SIDE_PX = 1600;
/** The darkest ink still sends some light back. */
const DEEPEST = 0.98;
/** Full coverage of a strong ink would clip its darker channels, and with them its hue. */
const COLOUR_GAIN = 0.94;
/** Difference from grey, as a share of the ink's depth, up to which it is taken for black, and from which for a colour. */
const NEUTRAL_TO = 0.04;
const COLOURED_FROM = 0.16;
/** Linear light in as many steps as keep the darkest tones apart. */
const LINEAR_STEPS = 4095;
const FIRMED_STEPS = 1024;

const toLinear = (coded: number): number => (coded <= 0.04045 ? coded / 12.92 : ((coded + 0.055) / 1.055) ** 2.4);
const toCoded = (linear: number): number => (linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055);
const LINEAR = Float32Array.from({ length: 256 }, (_, v) => toLinear(v / 255));
const CODED = Uint8ClampedArray.from({ length: LINEAR_STEPS + 1 }, (_, i) => 255 * toCoded(i / LINEAR_STEPS));

interface CoverageKernels {
  gather(pixels: number, width: number, rows: number, channels: number, linear: number, depth: number, reds: number, greens: number, blues: number, cellsAcross: number, shift: number): void;
  inkShares(red: number, green: number, blue: number, most: number, count: number, gainMost: number, neutralTo: number, colouredFrom: number, deepest: number): void;
  restoreRow(pixels: number, depth: number, smooth: number, width: number, channels: number, sharpened: number, firmed: number, coded: number, steps: number, red: number, green: number, blue: number, most: number, shift: number): void;
}
const start = scratchKernels<CoverageKernels>(COVERAGE_KERNELS);

/** Rows looked at together: whole cells. */
const BAND = 4;

/**
 * Restores strokes in place.
 * @param page - RGB or grey on white paper
 * @param detail - its size over that at which it would show all the photo's detail: a smaller copy has lost the blur that is to be undone
 */
export function restoreCoverage(page: PixelImage, detail: number): void {
  const { width, height } = page;
  const { depth, cells } = gather(page);
  const smooth = smoothGrain({ width, height, depth });
  restore(page, depth, smooth, cells, detail);
}

/**
 * The ink's colour around every place: planes of what it takes away of white in red, green and blue beside its lightness, and
 * the coverage at which the channel that it takes most of is all but gone.
 */
interface InkCells {
  readonly width: number;
  readonly height: number;
  /** A cell's side is 2 to the power of this, px. */
  readonly shift: number;
  readonly planes: readonly Float32Array[];
}

/**
 * How deep the ink of every pixel is, and its colour. A camera keeps colour in fewer pixels than lightness, so across a thin
 * stroke it runs into the paper; but blur takes nothing away from sums. So colours are read from sums over a few pixels,
 * which calms their noise too.
 */
function gather({ width, height, channels, data }: PixelImage): { readonly depth: Uint8ClampedArray<ArrayBuffer>; readonly cells: InkCells } {
  const shift = Math.max(width, height) > LARGE_LONG_SIDE_PX ? 2 : 1;
  const w = (width >> shift) + 1;
  const h = (height >> shift) + 1;
  const depth = new Uint8ClampedArray(width * height);
  const sums = [0, 1, 2].map(() => new Float32Array(w * h));
  const linearAt = FIRST_BYTE;
  const sumsAt = linearAt + roomFor(LINEAR.length);
  const cellRows = BAND >> shift;
  const sumBytes = roomFor(w * cellRows);
  const depthAt = sumsAt + 3 * sumBytes;
  const pixelsAt = depthAt + BAND * width;
  const { kernels, buffer } = start(pixelsAt + BAND * width * channels);
  new Float32Array(buffer, linearAt, LINEAR.length).set(LINEAR);
  const bytes = new Uint8ClampedArray(buffer);
  const found = sums.map((_, c) => new Float32Array(buffer, sumsAt + c * sumBytes, w * cellRows));
  for (let y = 0; y < height; y += BAND) {
    const rows = Math.min(BAND, height - y);
    bytes.set(data.subarray(y * width * channels, (y + rows) * width * channels), pixelsAt);
    for (const sum of found) sum.fill(0);
    kernels.gather(pixelsAt, width, rows, channels, linearAt, depthAt, sumsAt, sumsAt + sumBytes, sumsAt + 2 * sumBytes, w, shift);
    depth.set(bytes.subarray(depthAt, depthAt + rows * width), y * width);
    const cellRow = y >> shift;
    sums.forEach((plane, c) => plane.set(found[c]!.subarray(0, Math.min(cellRows, h - cellRow) * w), cellRow * w));
  }
  if (channels === 1) return { depth, cells: { width: w, height: h, shift, planes: [] } };
  return { depth, cells: { width: w, height: h, shift, planes: coloursOf(sums.map((plane) => boxBlur(plane, w, h, shift === 2 ? 1 : 2, 1))) } };
}

/** Black ink under a lamp keeps a breath of it, where its colour ran into the paper: what is nearly grey becomes grey. */
function coloursOf(sums: readonly Float32Array[]): Float32Array[] {
  const count = sums[0]!.length;
  const bytes = roomFor(count);
  const { kernels, buffer } = start(FIRST_BYTE + 4 * bytes);
  sums.forEach((plane, c) => new Float32Array(buffer, FIRST_BYTE + c * bytes, count).set(plane));
  kernels.inkShares(FIRST_BYTE, FIRST_BYTE + bytes, FIRST_BYTE + 2 * bytes, FIRST_BYTE + 3 * bytes, count, COLOUR_GAIN, NEUTRAL_TO, COLOURED_FROM, DEEPEST);
  return [0, 1, 2, 3].map((c) => new Float32Array(buffer, FIRST_BYTE + c * bytes, count).slice());
}

function restore({ width, height, channels, data }: PixelImage, depth: Uint8ClampedArray, smooth: Uint8ClampedArray, { width: w, shift, planes }: InkCells, detail: number): void {
  const firmness = 1 + (FIRMNESS - 1) * detail;
  const firmedAt = FIRST_BYTE;
  const codedAt = firmedAt + roomFor(FIRMED_STEPS + 1);
  const cellsAt = codedAt + roomFor(CODED.length / 4);
  const cellBytes = roomFor(w);
  const depthAt = cellsAt + 4 * cellBytes;
  const smoothAt = depthAt + width;
  const pixelsAt = smoothAt + width;
  const { kernels, buffer } = start(pixelsAt + width * channels);
  const bytes = new Uint8ClampedArray(buffer);
  new Float32Array(buffer, firmedAt, FIRMED_STEPS + 1).set(Float32Array.from({ length: FIRMED_STEPS + 1 }, (_, i) => DEEPEST * (1 - (1 - i / FIRMED_STEPS) ** firmness)));
  bytes.set(CODED, codedAt);
  const pixels = bytes.subarray(pixelsAt, pixelsAt + width * channels);
  const cells = planes.map((_, c) => new Float32Array(buffer, cellsAt + c * cellBytes, w));
  for (let y = 0; y < height; y++) {
    const row = y * width * channels;
    bytes.set(depth.subarray(y * width, (y + 1) * width), depthAt);
    bytes.set(smooth.subarray(y * width, (y + 1) * width), smoothAt);
    pixels.set(data.subarray(row, row + pixels.length));
    const cellRow = (y >> shift) * w;
    planes.forEach((plane, c) => cells[c]!.set(plane.subarray(cellRow, cellRow + w)));
    kernels.restoreRow(pixelsAt, depthAt, smoothAt, width, channels, SHARPENED * detail * detail, firmedAt, codedAt, LINEAR_STEPS, cellsAt, cellsAt + cellBytes, cellsAt + 2 * cellBytes, cellsAt + 3 * cellBytes, shift);
    data.set(pixels, row);
  }
}
