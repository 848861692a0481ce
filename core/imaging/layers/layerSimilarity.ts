import { withWorkspace } from '../kernels/workspace';
import { lumaOf } from '../raster/lightness';
import type { PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { countDarker, inkDepthOf } from './inkDepth';
import { seenOf } from './inkMasks';
import { BACKGROUND_STEP, type PageLayers } from './pageLayers';

/** The page as its layers show it, grey, without the coding's own losses. */
function layOver(
  { width, height }: PixelImage,
  { background, inks, inkPixels, paintedIn, pictures }: PageLayers,
): Uint8ClampedArray {
  const out = new Uint8ClampedArray(width * height).fill(255);
  if (background !== null) {
    const level = greyOf(background);
    for (let y = 0; y < height; y++) {
      const row = Math.floor(y / BACKGROUND_STEP) * background.width;
      if (y % BACKGROUND_STEP !== 0) out.copyWithin(y * width, (y - 1) * width, y * width);
      else for (let x = 0; x < width; x++) out[y * width + x] = level[row + Math.floor(x / BACKGROUND_STEP)]!;
    }
  }
  const levels = Uint8ClampedArray.from(inks, (colour) => lumaOf(...colour));
  for (let k = 0; k < inkPixels.length; k++) out[inkPixels[k]!] = levels[seenOf(paintedIn[k]!)]!;
  for (const { box, picture } of pictures) {
    const level = greyOf(picture);
    for (let y = 0; y < box.height; y++)
      out.set(level.subarray(y * box.width, (y + 1) * box.width), (box.y + y) * width + box.x);
  }
  return out;
}

/** One byte of grey a pixel. */
export const greyOf = (page: PixelImage): Uint8ClampedArray<ArrayBuffer> =>
  page.channels === 1 ? page.data : inkDepthOf(page).grey;

/** Half the window that is compared: that of likeness.as.ts. */
const RADIUS = 4;
/** Windows compared at most, spread evenly over the ink. */
const SAMPLES = 6000;
/** Level below which a pixel is ink. */
const INK_BELOW = 200;

/** How like two pictures are: mean structural similarity (Wang et al. 2004) of 9 × 9 windows, up to 1. */
export interface Likeness {
  /** Of windows about ink; 1 where there is none. */
  readonly ink: number;
  /** Of windows everywhere. */
  readonly all: number;
}

/**
 * How like the page its layers are.
 * @param before - the page in grey, where it is known
 */
export function layerSimilarity(page: PixelImage, layers: PageLayers, before = greyOf(page)): Likeness {
  const after = layOver(page, layers);
  const likeness = similarityOf(before, after, page.width, page.height);
  releaseBuffers(after);
  return likeness;
}

/**
 * How like a picture is to another.
 * @param before - grey, one byte a pixel, row by row; what is darker than 200 is ink
 * @param after - grey, of the same size
 */
export function similarityOf(
  before: Uint8ClampedArray,
  after: Uint8ClampedArray,
  width: number,
  height: number,
): Likeness {
  const aboutInk = inkMiddles(before, width, height);
  const everywhere = gridMiddles(width, height);
  return withWorkspace((ws) => {
    const [one, other] = [ws.of(before), ws.of(after)];
    const mean = (middles: Int32Array): number =>
      middles.length === 0
        ? 1
        : ws.kernels.sumLikeness(one.at, other.at, width, ws.of(middles).at, middles.length) / middles.length;
    return { ink: mean(aboutInk), all: mean(everywhere) };
  });
}

/** Between the middles of windows that are compared everywhere, px; no multiple of a JPEG's blocks. */
const GRID_PX = 11;

/** Middles of windows all over a picture, as indices into it. */
function gridMiddles(width: number, height: number): Int32Array {
  const across = Math.max(0, Math.ceil((width - 2 * RADIUS) / GRID_PX));
  const down = Math.max(0, Math.ceil((height - 2 * RADIUS) / GRID_PX));
  const middles = new Int32Array(across * down);
  for (let k = 0, v = 0; v < down; v++)
    for (let u = 0; u < across; u++) middles[k++] = (RADIUS + v * GRID_PX) * width + RADIUS + u * GRID_PX;
  return middles;
}

/** Middles of windows about ink, at most about SAMPLES of them, as indices into the picture. */
function inkMiddles(grey: Uint8ClampedArray, width: number, height: number): Int32Array {
  const ink = inkWithin(grey, width, height);
  const step = Math.max(1, Math.floor(ink.length / SAMPLES));
  return Int32Array.from({ length: Math.ceil(ink.length / step) }, (_, k) => ink[k * step]!);
}

/** Indices of the pixels of ink about which there is a whole window. */
function inkWithin(grey: Uint8ClampedArray, width: number, height: number): Uint32Array {
  const found = new Uint32Array(countDarker(grey, INK_BELOW));
  let count = 0;
  for (let y = RADIUS; y < height - RADIUS; y++) {
    for (let i = y * width + RADIUS, end = (y + 1) * width - RADIUS; i < end; i++)
      if (grey[i]! < INK_BELOW) found[count++] = i;
  }
  return found.subarray(0, count);
}
