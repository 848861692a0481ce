import { recoverProportions } from '../geometry/aspectRatio';
import { ALL_STRAIGHT, type Bends } from '../geometry/bentOutline';
import { homographyBetween } from '../geometry/homography';
import { distance, type Point } from '../geometry/point';
import { polygonArea, scaleQuad, wholePicture, type Quad } from '../geometry/quad';
import { halveImage } from '../raster/halveImage';
import { createPixelImage, type PixelImage } from '../raster/pixelImage';
import { withWorkspace, type ClampedSlot, type FloatSlot, type Workspace } from '../kernels/workspace';
import { fitSheet } from './fitSheet';
import type { PageLine } from './pageLine';
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

/** What is known of a page's shape beside its corners. */
export interface ShapeHints {
  /** How its sides leave their chords; straight by default. */
  readonly bends?: Bends;
  /** Proportions a person chose, or auto, the default: recovered, and snapped to a standard sheet within its tolerance. */
  readonly paper?: Sheet;
  /** Focal length over the photo's long side where the file tells it. */
  readonly focalRatio?: number | null;
  /** Lines that stand on it, in photo pixels. */
  readonly lines?: readonly PageLine[];
}

/**
 * Works out how the page lies and how large it is: its longest sides in the photo, in the page's true proportions.
 * @param corners - outline in photo pixels, TL, TR, BR, BL
 * @param photo - its size, px
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function readShape(
  corners: Quad,
  { width: photoWidth, height: photoHeight }: FlatSize,
  { bends = ALL_STRAIGHT, paper = 'auto', focalRatio = null, lines = [] }: ShapeHints = {},
): PageShape {
  const [tl, tr, br, bl] = corners;
  const across = Math.max(distance(tl, tr), distance(bl, br));
  const down = Math.max(distance(tl, bl), distance(tr, br));
  const sheet = fitSheet({ corners, bends, photoWidth, photoHeight, focalRatio, lines });
  const whole =
    Math.abs(polygonArea(corners) - photoWidth * photoHeight) < 1 && across * down < photoWidth * photoHeight + 1;
  const seen =
    sheet !== null
      ? sheet.aspect
      : whole
        ? across / down
        : recoverProportions(corners, photoWidth, photoHeight, focalRatio).aspect;
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
 * first halved (2×2 means) as often as fits, and what is left of the step up to 2 is averaged over a 2×2 grid of perSide
 * in each output pixel, so that fine print does not alias. A bent sheet is read at the nodes of a grid and linearly
 * between them, which is exact to a twentieth of a pixel.
 * Limits: beyond the photo's border the page shows white.
 * @param photo - 3 or 4 channels (a fourth is dropped) or grey
 * @param size - of the flat page, px
 * @param onProgress - told how much is done, 0 to 1
 * @returns RGB (grey stays grey) of the size asked for
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function flattenPage(
  photo: PixelImage,
  { corners, sheet }: Pick<PageShape, 'corners' | 'sheet'>,
  size: FlatSize,
  onProgress: (share: number) => void = () => undefined,
): PixelImage {
  let source = photo;
  let step = Math.sqrt(Math.abs(polygonArea(corners)) / (size.width * size.height));
  let scale = 1;
  while (step >= 2) {
    source = halveImage(source);
    scale /= 2;
    step /= 2;
  }
  return withWorkspace((ws) => {
    const places =
      sheet === null ? flatPlaces(ws, scaleQuad(corners, scale), size) : bentPlaces(ws, sheet, scale, size);
    return warp(ws, source, places, { size, perSide: step > 1.2 ? 2 : 1, onProgress });
  });
}

/** Places in a row of the page: `count` of them, x from `first` on by `step`, px. */
interface PlaceRow {
  readonly y: number;
  readonly first: number;
  readonly step: number;
  readonly count: number;
}

/** Where places of the page lie in the source, px. */
interface SourcePlaces {
  readonly xs: FloatSlot;
  readonly ys: FloatSlot;
}

/** Writes where a row of places lies in the source, from the `offset`-th on. */
type LocateRow = (row: PlaceRow, into: SourcePlaces, offset: number) => void;

function flatPlaces(ws: Workspace, corners: Quad, size: FlatSize): LocateRow {
  const homography = ws.of(Float64Array.from(homographyBetween(wholePicture(size.width, size.height), corners)));
  return ({ y, first, step, count }, { xs, ys }, offset) =>
    ws.kernels.projectRow(homography.at, y, first, step, count, xs.addressOf(offset), ys.addressOf(offset));
}

/** Cells of the grid in which a bent sheet is read. */
const GRID = 96;

function bentPlaces(ws: Workspace, sheet: FittedSheet, scale: number, { width, height }: FlatSize): LocateRow {
  const nodes = new Float64Array(2 * (GRID + 1) ** 2);
  for (let j = 0, to = 0; j <= GRID; j++)
    for (let i = 0; i <= GRID; i++) {
      const { x, y } = sheet.toPhoto(i / GRID, j / GRID);
      nodes[to++] = scale * x;
      nodes[to++] = scale * y;
    }
  const mesh = ws.of(nodes);
  const [perX, perY] = [GRID / width, GRID / height];
  return ({ y, first, step, count }, { xs, ys }, offset) =>
    ws.kernels.meshRow(
      mesh.at,
      GRID,
      y * perY,
      first * perX,
      step * perX,
      count,
      xs.addressOf(offset),
      ys.addressOf(offset),
    );
}

/** The page is made tile by tile, so that only a small part of the photo is in the kernels' memory at a time. */
const TILE_PX = 128;

interface WarpOptions {
  readonly size: FlatSize;
  /** Places that are averaged for a pixel, along each of its sides. */
  readonly perSide: 1 | 2;
  readonly onProgress: (share: number) => void;
}

function warp(
  ws: Workspace,
  source: PixelImage,
  locate: LocateRow,
  { size, perSide, onProgress }: WarpOptions,
): PixelImage {
  const { width, height } = size;
  const out = createPixelImage(width, height, source.channels === 1 ? 1 : 3);
  const most = (TILE_PX * perSide) ** 2;
  const places: SourcePlaces = { xs: ws.f32(most), ys: ws.f32(most) };
  const tile = ws.clamped(3 * TILE_PX ** 2);
  const pixels = new Uint8ClampedArray(tile.length);
  for (let top = 0; top < height; top += TILE_PX) {
    const rows = Math.min(TILE_PX, height - top);
    for (let left = 0; left < width; left += TILE_PX) {
      const columns = Math.min(TILE_PX, width - left);
      const count = columns * perSide;
      // a row may write a little into the next, so they are filled from the top
      for (let row = 0; row < rows * perSide; row++)
        locate(
          { y: top + (row + 0.5) / perSide, first: left + 0.5 / perSide, step: 1 / perSide, count },
          places,
          row * count,
        );
      sampleTile(source, places, tile, { columns, rows, perSide });
      tile.copyInto(pixels, 0, 3 * columns * rows);
      for (let row = 0; row < rows; row++) {
        const to = (top + row) * width + left;
        if (out.channels === 1) for (let x = 0; x < columns; x++) out.data[to + x] = pixels[3 * (row * columns + x)]!;
        else out.data.set(pixels.subarray(3 * row * columns, 3 * (row + 1) * columns), 3 * to);
      }
    }
    onProgress((top + rows) / height);
  }
  return out;
}

/** Reads the source at the places of a tile: RGB, columns × rows. */
function sampleTile(
  source: PixelImage,
  { xs, ys }: SourcePlaces,
  tile: ClampedSlot,
  { columns, rows, perSide }: { readonly columns: number; readonly rows: number; readonly perSide: number },
): void {
  withWorkspace((ws) => {
    const { kernels } = ws;
    const all = columns * rows * perSide ** 2;
    const part = partOf(
      source,
      { x: kernels.smallestOf(xs.at, all), y: kernels.smallestOf(ys.at, all) },
      { x: kernels.largestOf(xs.at, all), y: kernels.largestOf(ys.at, all) },
    );
    const channels = source.channels === 1 ? 3 : source.channels;
    const read = ws.clamped((part.width * part.height + 8) * channels);
    read.view((samples) => readPart(source, part, samples));
    kernels.sampleTile(
      read.at,
      part.x,
      part.y,
      part.width,
      channels,
      source.width,
      source.height,
      xs.at,
      ys.at,
      columns,
      rows,
      perSide,
      tile.at,
    );
  });
}

interface Part extends FlatSize {
  readonly x: number;
  readonly y: number;
}

/** All pixels that are read for places between two, one row more than the photo has where they reach its end. */
function partOf({ width, height }: PixelImage, least: Point, most: Point): Part {
  const within = (at: number, length: number): number => Math.min(length - 1, Math.max(0, Math.floor(at - 0.5)));
  const x = within(least.x, width);
  const y = within(least.y, height);
  return { x, y, width: within(most.x, width) + 2 - x, height: within(most.y, height) + 2 - y };
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
