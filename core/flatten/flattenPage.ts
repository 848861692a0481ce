import { recoverProportions } from '../geometry/aspectRatio';
import { ALL_STRAIGHT, type Bends } from '../geometry/bentOutline';
import { homographyBetween } from '../geometry/homography';
import { distance, scalePoint } from '../geometry/point';
import { polygonArea, scaleQuad, wholePicture, type Quad } from '../geometry/quad';
import { halveImage } from '../raster/halveImage';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { pagesFor, startKernels } from '../raster/startKernels';
import { WARP_KERNELS } from '../raster/warpKernels';
import { fitSheet, type FittedSheet } from './fitSheet';
import { chooseAspect, type Sheet } from './standardAspect';

export interface FlatSize {
  readonly width: number;
  readonly height: number;
}

/** Where the page is in the photo and how it lies: all that flattening needs to know. */
export interface PageShape {
  readonly corners: Quad;
  /** How a sheet that is not flat lies; null for a flat one. */
  readonly sheet: FittedSheet | null;
  /** The size in px at which the flat page shows all the detail the photo has, and no invented pixels. */
  readonly size: FlatSize;
}

/**
 * Works out how the page lies and how large it is: its longest sides in the photo, in the page's true proportions.
 * @param corners - outline in photo pixels, TL, TR, BR, BL; photo size in px
 * @param bends - how its sides leave their chords
 * @param paper - proportions a person chose, or auto: recovered, and snapped to a standard sheet within its tolerance
 * @param focalShare - focal length over the photo's long side where the file tells it
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function readShape(corners: Quad, photoWidth: number, photoHeight: number, bends: Bends = ALL_STRAIGHT, paper: Sheet = 'auto', focalShare?: number): PageShape {
  const [tl, tr, br, bl] = corners;
  const across = Math.max(distance(tl, tr), distance(bl, br));
  const down = Math.max(distance(tl, bl), distance(tr, br));
  const sheet = fitSheet({ corners, bends, photoWidth, photoHeight, focalShare });
  const whole = Math.abs(polygonArea(corners) - photoWidth * photoHeight) < 1 && across * down < photoWidth * photoHeight + 1;
  const seen = sheet !== null ? sheet.aspect : whole ? across / down : recoverProportions(corners, photoWidth, photoHeight, focalShare).aspect;
  const aspect = whole && sheet === null && paper === 'auto' ? seen : chooseAspect(seen, paper);
  const height = Math.max(down, across / aspect);
  return { corners, sheet, size: { width: Math.max(1, Math.round(height * aspect)), height: Math.max(1, Math.round(height)) } };
}

/** The size reduced so that its long side is at most this; never enlarged. */
export function limitLongSide({ width, height }: FlatSize, longSidePx: number): FlatSize {
  const factor = Math.min(1, longSidePx / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * factor)), height: Math.max(1, Math.round(height * factor)) };
}

/**
 * Lays the page flat: every output pixel is looked up in the photo, through the homography from page to photo or, for a
 * sheet that is not flat, through its fitted surface.
 * Method: backward warping with bilinear interpolation. Where the output is smaller than the photo's detail, the photo is
 * first halved (2×2 means) as often as fits, and what is left of the step up to 2 is averaged over a 2×2 grid of looks
 * in each output pixel, so that fine print does not alias. A bent sheet is read at the nodes of a grid and linearly
 * between them, which is exact to a twentieth of a pixel.
 * Limits: beyond the photo's border the page shows white.
 * @param photo - 3 or 4 channels (a fourth is dropped) or grey
 * @param size - of the flat page, px
 * @returns RGB (grey stays grey) of the size asked for
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function flattenPage(photo: PixelImage, { corners, sheet }: Pick<PageShape, 'corners' | 'sheet'>, size: FlatSize): PixelImage {
  let source = photo;
  let step = Math.sqrt(Math.abs(polygonArea(corners)) / (size.width * size.height));
  let scale = 1;
  while (step >= 2) {
    source = halveImage(source);
    scale /= 2;
    step /= 2;
  }
  const out = createPixelImage(size.width, size.height, photo.channels === 1 ? 1 : 3);
  const lookups = sheet === null ? flatLookups(scaleQuad(corners, scale), size) : bentLookups(sheet, scale, size);
  warpInto(out, source, lookups, step > 1.2 ? 2 : 1);
  return out;
}

/** Fills xs and ys with the places in the source of a row of page places: y in px of the page, x from `first` on by `step`. */
type Lookups = (y: number, first: number, step: number, xs: Float32Array, ys: Float32Array) => void;

function flatLookups(corners: Quad, size: FlatSize): Lookups {
  const [h0, h1, h2, h3, h4, h5, h6, h7, h8] = homographyBetween(wholePicture(size.width, size.height), corners);
  return (y, first, step, xs, ys) => {
    for (let i = 0, x = first; i < xs.length; i++, x += step) {
      const w = 1 / (h6 * x + h7 * y + h8);
      xs[i] = (h0 * x + h1 * y + h2) * w;
      ys[i] = (h3 * x + h4 * y + h5) * w;
    }
  };
}

/** Cells of the grid in which a bent sheet is read. */
const GRID = 96;

function bentLookups(sheet: FittedSheet, scale: number, { width, height }: FlatSize): Lookups {
  const nodes = Array.from({ length: GRID + 1 }, (_, j) => Array.from({ length: GRID + 1 }, (__, i) => scalePoint(sheet.toPhoto(i / GRID, j / GRID), scale)));
  const rowX = new Float64Array(GRID + 1);
  const rowY = new Float64Array(GRID + 1);
  return (y, first, step, xs, ys) => {
    const at = (y / height) * GRID;
    const j = Math.min(GRID - 1, Math.floor(at));
    const f = at - j;
    for (let i = 0; i <= GRID; i++) {
      const above = nodes[j]![i]!;
      const below = nodes[j + 1]![i]!;
      rowX[i] = above.x + (below.x - above.x) * f;
      rowY[i] = above.y + (below.y - above.y) * f;
    }
    for (let k = 0, x = first; k < xs.length; k++, x += step) {
      const across = (x / width) * GRID;
      const i = Math.min(GRID - 1, across | 0);
      const g = across - i;
      xs[k] = rowX[i]! + (rowX[i + 1]! - rowX[i]!) * g;
      ys[k] = rowY[i]! + (rowY[i + 1]! - rowY[i]!) * g;
    }
  };
}

const PAPER_WHITE = 255;

function warpInto(out: PixelImage, source: PixelImage, lookups: Lookups, looks: 1 | 2): void {
  const { width, height, channels } = out;
  const { xs, ys, begin, add, end } = (channels === 1 ? greyReader : colourReader)(source, width, looks);
  for (let y = 0; y < height; y++) {
    begin();
    for (let look = 0; look < looks; look++) {
      lookups(y + (look + 0.5) / looks, 0.5 / looks, 1 / looks, xs, ys);
      add();
    }
    out.data.set(end(), y * width * channels);
  }
}

/** Reads rows of places in a source, bilinear; all looks into a pixel add up to one. */
interface RowReader {
  /** The places, px of the source, `looks` of them to a pixel. */
  readonly xs: Float32Array;
  readonly ys: Float32Array;
  readonly begin: () => void;
  /** Adds what is seen at the places. */
  readonly add: () => void;
  /** @returns the row's samples, 0 to 255 */
  readonly end: () => ArrayLike<number>;
}

function greyReader(source: PixelImage, width: number, looks: 1 | 2): RowReader {
  const xs = new Float32Array(width * looks);
  const ys = new Float32Array(width * looks);
  const row = new Float32Array(width);
  return { xs, ys, begin: () => row.fill(0), add: () => addGrey(row, source, xs, ys, looks), end: () => row };
}

interface WarpKernels {
  addLooks(source: number, width: number, height: number, channels: number, xs: number, ys: number, count: number, halvings: number, share: number, row: number): void;
  storeRow(row: number, count: number, out: number): void;
}

/** The source lies in the memory of WebAssembly (kernels/warp.as.ts), which goes when the reader does: photos are large. */
function colourReader({ width: sourceWidth, height: sourceHeight, channels, data }: PixelImage, width: number, looks: 1 | 2): RowReader {
  const count = width * looks;
  const sourceAt = 1024;
  const xsAt = sourceAt + Math.ceil((data.length + 4) / 16) * 16; // the last pixel is read with what is behind it
  const ysAt = xsAt + 4 * count;
  const rowAt = Math.ceil((ysAt + 4 * count) / 16) * 16;
  const outAt = rowAt + 16 * width;
  const { memory, kernels } = startKernels<WarpKernels>(WARP_KERNELS, pagesFor(outAt + 3 * width));
  new Uint8ClampedArray(memory.buffer, sourceAt, data.length).set(data);
  const row = new Float32Array(memory.buffer, rowAt, 4 * width);
  const samples = new Uint8ClampedArray(memory.buffer, outAt, 3 * width);
  return {
    xs: new Float32Array(memory.buffer, xsAt, count),
    ys: new Float32Array(memory.buffer, ysAt, count),
    begin: () => row.fill(0),
    add: () => kernels.addLooks(sourceAt, sourceWidth, sourceHeight, channels, xsAt, ysAt, count, looks - 1, 1 / (looks * looks), rowAt),
    end: () => {
      kernels.storeRow(rowAt, width, outAt);
      return samples;
    },
  };
}

function addGrey(row: Float32Array, { width, height, data }: PixelImage, xs: Float32Array, ys: Float32Array, looks: number): void {
  const share = 1 / (looks * looks);
  for (let k = 0; k < xs.length; k++) {
    const to = k >> (looks - 1);
    const x = xs[k]! - 0.5;
    const y = ys[k]! - 0.5;
    if (!(x >= -1.5 && y >= -1.5 && x <= width + 0.5 && y <= height + 0.5)) {
      row[to]! += PAPER_WHITE * share;
      continue;
    }
    const cx = Math.min(width - 1, Math.max(0, x));
    const cy = Math.min(height - 1, Math.max(0, y));
    const i = Math.floor(cy) * width + Math.floor(cx);
    const fx = cx % 1;
    const fy = cy % 1;
    const right = fx > 0 ? 1 : 0;
    const below = fy > 0 ? width : 0;
    row[to]! += share * ((data[i]! * (1 - fx) + data[i + right]! * fx) * (1 - fy) + (data[i + below]! * (1 - fx) + data[i + below + right]! * fx) * fy);
  }
}
