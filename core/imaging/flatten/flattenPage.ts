import { recoverProportions } from '../geometry/aspectRatio';
import { ALL_STRAIGHT, type Bends } from '../geometry/bentOutline';
import { homographyBetween } from '../geometry/homography';
import { distance, scalePoint } from '../geometry/point';
import { polygonArea, scaleQuad, wholePicture, type Quad } from '../geometry/quad';
import { halveImage } from '../raster/halveImage';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { FIRST_BYTE, roomFor, scratchKernels } from '../kernels/startKernels';
import { WARP_KERNELS } from '../kernels/warpKernels';
import { fitSheet } from './fitSheet';
import type { FittedSheet } from './fittedSheet';
import { chooseAspect, type Sheet } from '../geometry/standardSheets';

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
export function readShape(
  corners: Quad,
  photoWidth: number,
  photoHeight: number,
  bends: Bends = ALL_STRAIGHT,
  paper: Sheet = 'auto',
  focalShare?: number,
): PageShape {
  const [tl, tr, br, bl] = corners;
  const across = Math.max(distance(tl, tr), distance(bl, br));
  const down = Math.max(distance(tl, bl), distance(tr, br));
  const sheet = fitSheet({ corners, bends, photoWidth, photoHeight, focalShare });
  const whole =
    Math.abs(polygonArea(corners) - photoWidth * photoHeight) < 1 && across * down < photoWidth * photoHeight + 1;
  const seen =
    sheet !== null
      ? sheet.aspect
      : whole
        ? across / down
        : recoverProportions(corners, photoWidth, photoHeight, focalShare).aspect;
  const aspect = whole && sheet === null && paper === 'auto' ? seen : chooseAspect(seen, paper);
  const height = Math.max(down, across / aspect);
  return {
    corners,
    sheet,
    size: { width: Math.max(1, Math.round(height * aspect)), height: Math.max(1, Math.round(height)) },
  };
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
 * @param tell - told how much is done, 0 to 1
 * @returns RGB (grey stays grey) of the size asked for
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function flattenPage(
  photo: PixelImage,
  { corners, sheet }: Pick<PageShape, 'corners' | 'sheet'>,
  size: FlatSize,
  tell: (share: number) => void = () => undefined,
): PixelImage {
  let source = photo;
  let step = Math.sqrt(Math.abs(polygonArea(corners)) / (size.width * size.height));
  let scale = 1;
  while (step >= 2) {
    source = halveImage(source);
    scale /= 2;
    step /= 2;
  }
  const places = sheet === null ? flatPlaces(scaleQuad(corners, scale), size) : bentPlaces(sheet, scale, size);
  return warp(source, places, size, step > 1.2 ? 2 : 1, tell);
}

interface WarpKernels {
  project(homography: number, y: number, first: number, step: number, count: number, xs: number, ys: number): void;
  least(values: number, count: number): number;
  largest(values: number, count: number): number;
  lookTile(
    part: number,
    left: number,
    top: number,
    partWidth: number,
    channels: number,
    photoWidth: number,
    photoHeight: number,
    xs: number,
    ys: number,
    width: number,
    height: number,
    looks: number,
    out: number,
  ): void;
}
const start = scratchKernels<WarpKernels>(WARP_KERNELS);

/** Where a row of places of the page, px of it, lies in the source: x from `first` on by `step`. In the kernels' memory. */
type Places = (
  memory: ArrayBuffer,
  kernels: WarpKernels,
  y: number,
  first: number,
  step: number,
  count: number,
  xs: number,
  ys: number,
) => void;

function flatPlaces(corners: Quad, size: FlatSize): Places {
  const homography = homographyBetween(wholePicture(size.width, size.height), corners);
  return (memory, kernels, y, first, step, count, xs, ys) => {
    new Float64Array(memory, FIRST_BYTE, 9).set(homography);
    kernels.project(FIRST_BYTE, y, first, step, count, xs, ys);
  };
}

/** Cells of the grid in which a bent sheet is read. */
const GRID = 96;

function bentPlaces(sheet: FittedSheet, scale: number, { width, height }: FlatSize): Places {
  const nodes = Array.from({ length: GRID + 1 }, (_, j) =>
    Array.from({ length: GRID + 1 }, (__, i) => scalePoint(sheet.toPhoto(i / GRID, j / GRID), scale)),
  );
  const rowX = new Float64Array(GRID + 1);
  const rowY = new Float64Array(GRID + 1);
  return (memory, _kernels, y, first, step, count, xs, ys) => {
    const at = (y / height) * GRID;
    const j = Math.min(GRID - 1, Math.floor(at));
    const f = at - j;
    const perPixel = GRID / width;
    for (
      let i = Math.floor(first * perPixel),
        last = Math.min(GRID, Math.floor((first + (count - 1) * step) * perPixel) + 1);
      i <= last;
      i++
    ) {
      const above = nodes[j]![i]!;
      const below = nodes[j + 1]![i]!;
      rowX[i] = above.x + (below.x - above.x) * f;
      rowY[i] = above.y + (below.y - above.y) * f;
    }
    const outX = new Float32Array(memory, xs, count);
    const outY = new Float32Array(memory, ys, count);
    for (let k = 0, x = first; k < count; k++, x += step) {
      const across = x * perPixel;
      const i = Math.min(GRID - 1, across | 0);
      const g = across - i;
      outX[k] = rowX[i]! + (rowX[i + 1]! - rowX[i]!) * g;
      outY[k] = rowY[i]! + (rowY[i + 1]! - rowY[i]!) * g;
    }
  };
}

/** The page is made tile by tile, so that only a small part of the photo is in the kernels' memory at a time. */
const TILE_PX = 128;

function warp(
  source: PixelImage,
  places: Places,
  { width, height }: FlatSize,
  looks: 1 | 2,
  tell: (share: number) => void,
): PixelImage {
  const grey = source.channels === 1;
  const out = createPixelImage(width, height, grey ? 1 : 3);
  const most = (TILE_PX * looks) ** 2;
  const xsAt = FIRST_BYTE + 128; // behind what places need
  const ysAt = xsAt + roomFor(most);
  const tileAt = ysAt + roomFor(most);
  const partAt = tileAt + 4 * roomFor(TILE_PX ** 2);
  for (let top = 0; top < height; top += TILE_PX) {
    const rows = Math.min(TILE_PX, height - top);
    for (let left = 0; left < width; left += TILE_PX) {
      const columns = Math.min(TILE_PX, width - left);
      const count = columns * looks;
      const all = count * rows * looks;
      const { kernels, buffer } = start(partAt);
      // a row may write a little into the next, so they are filled from the top
      for (let row = 0; row < rows * looks; row++)
        places(
          buffer,
          kernels,
          top + (row + 0.5) / looks,
          left + 0.5 / looks,
          1 / looks,
          count,
          xsAt + 4 * row * count,
          ysAt + 4 * row * count,
        );
      const part = partOf(
        source,
        kernels.least(xsAt, all),
        kernels.least(ysAt, all),
        kernels.largest(xsAt, all),
        kernels.largest(ysAt, all),
      );
      const channels = grey ? 3 : source.channels;
      const { kernels: same, buffer: grown } = start(partAt + (part.width * part.height + 8) * channels);
      readPart(source, part, new Uint8ClampedArray(grown, partAt, part.width * part.height * channels));
      same.lookTile(
        partAt,
        part.x,
        part.y,
        part.width,
        channels,
        source.width,
        source.height,
        xsAt,
        ysAt,
        columns,
        rows,
        looks,
        tileAt,
      );
      const tile = new Uint8ClampedArray(grown, tileAt, 3 * columns * rows);
      for (let row = 0; row < rows; row++) {
        const to = (top + row) * width + left;
        if (grey) for (let x = 0; x < columns; x++) out.data[to + x] = tile[3 * (row * columns + x)]!;
        else out.data.set(tile.subarray(3 * row * columns, 3 * (row + 1) * columns), 3 * to);
      }
    }
    tell((top + rows) / height);
  }
  return out;
}

interface Part extends FlatSize {
  readonly x: number;
  readonly y: number;
}

/** All pixels that are read for places within these bounds, one row more than the photo has where they reach its end. */
function partOf({ width, height }: PixelImage, left: number, top: number, right: number, bottom: number): Part {
  const within = (at: number, length: number): number => Math.min(length - 1, Math.max(0, Math.floor(at - 0.5)));
  const x = within(left, width);
  const y = within(top, height);
  return { x, y, width: within(right, width) + 2 - x, height: within(bottom, height) + 2 - y };
}

function readPart({ width, height, channels, data }: PixelImage, part: Part, into: Uint8ClampedArray): void {
  const columns = Math.min(part.width, width - part.x);
  const rows = Math.min(part.height, height - part.y);
  for (let row = 0; row < rows; row++) {
    const from = ((part.y + row) * width + part.x) * channels;
    if (channels !== 1) into.set(data.subarray(from, from + columns * channels), row * part.width * channels);
    else
      for (let x = 0; x < columns; x++)
        into.fill(data[from + x]!, 3 * (row * part.width + x), 3 * (row * part.width + x + 1));
  }
}
