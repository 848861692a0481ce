import { INK_KERNELS } from '../kernels/inkKernels';
import { largestByteAround } from '../raster/morphology';
import type { PixelImage } from '../raster/pixelImage';
import { FIRST_BYTE, scratchKernels } from '../kernels/startKernels';

interface InkKernels {
  depthAndGrey(pixels: number, count: number, depth: number, grey: number): void;
  sumBlocks(pixels: number, covered: number, width: number, rows: number, channels: number, out: number): void;
  countFrom(bytes: number, count: number, least: number): number;
  markInk(depth: number, full: number, count: number, least: number, share: number, out: number): void;
}
/** Started by what looks at finished pages: kernels/ink.as.ts. */
export const inkKernels = scratchKernels<InkKernels>(INK_KERNELS);

/** So many pixels are in the kernels' memory at a time. */
const CHUNK_PX = 1 << 16;

/** Of every pixel of a page, row by row, one byte each. */
export interface PageTones {
  /** How far it is from white, 0 to 255: by the channel that says most, so that yellow counts as well as black. */
  readonly depth: Uint8ClampedArray<ArrayBuffer>;
  /** Lightness (Rec. 601 weights). */
  readonly grey: Uint8ClampedArray<ArrayBuffer>;
}

/** @param page - RGB, RGBA or grey */
export function tonesOf({ width, height, channels, data }: PixelImage): PageTones {
  const depth = new Uint8ClampedArray(width * height);
  if (channels === 1) {
    for (let i = 0; i < depth.length; i++) depth[i] = 255 - data[i]!;
    return { depth, grey: data };
  }
  const grey = new Uint8ClampedArray(width * height);
  const depthAt = FIRST_BYTE + 3 * (CHUNK_PX + 16);
  const greyAt = depthAt + CHUNK_PX + 16;
  const { kernels, buffer } = inkKernels(greyAt + CHUNK_PX + 16);
  const pixels = new Uint8ClampedArray(buffer, FIRST_BYTE, 3 * CHUNK_PX);
  for (let from = 0; from < depth.length; from += CHUNK_PX) {
    const count = Math.min(CHUNK_PX, depth.length - from);
    if (channels === 3) pixels.set(data.subarray(3 * from, 3 * (from + count)));
    else for (let i = 0; i < count; i++) for (let c = 0; c < 3; c++) pixels[3 * i + c] = data[4 * (from + i) + c]!;
    kernels.depthAndGrey(FIRST_BYTE, count, depthAt, greyAt);
    depth.set(new Uint8ClampedArray(buffer, depthAt, count), from);
    grey.set(new Uint8ClampedArray(buffer, greyAt, count), from);
  }
  return { depth, grey };
}

/** Half the square in which the darkest ink nearby is sought, as a share of the long side: 0.4 mm of A4. */
const NEAR_RADIUS = 0.0013;

/** The depth of the darkest ink close to every pixel: a stroke's full depth at its soft edge. */
export function strokeDepth(depth: Uint8ClampedArray, width: number, height: number): Uint8ClampedArray<ArrayBuffer> {
  return largestByteAround(depth, width, height, Math.max(1, Math.round(NEAR_RADIUS * Math.max(width, height))));
}

/**
 * Where there is ink: at least `least` deep, and at least a share of the stroke's full depth.
 * @returns 1 for ink, else 0; and how many pixels are
 */
export function inkWhere(
  depth: Uint8ClampedArray,
  full: Uint8ClampedArray,
  least: number,
  share: number,
): { readonly is: Uint8Array<ArrayBuffer>; readonly count: number } {
  const is = new Uint8Array(depth.length);
  const fullAt = FIRST_BYTE + CHUNK_PX + 16;
  const outAt = fullAt + CHUNK_PX + 16;
  const { kernels, buffer } = inkKernels(outAt + CHUNK_PX + 16);
  const bytes = new Uint8Array(buffer);
  let count = 0;
  for (let from = 0; from < depth.length; from += CHUNK_PX) {
    const length = readChunk(depth, from, bytes);
    bytes.set(full.subarray(from, from + length), fullAt);
    kernels.markInk(FIRST_BYTE, fullAt, length, least, Math.round(256 * share), outAt);
    count += kernels.countFrom(outAt, length, 1);
    is.set(bytes.subarray(outAt, outAt + length), from);
  }
  return { is, count };
}

/** How many of a plane's samples are darker than this. */
export function countDarker(grey: Uint8ClampedArray, than: number): number {
  const { kernels, buffer } = inkKernels(FIRST_BYTE + CHUNK_PX + 16);
  const bytes = new Uint8Array(buffer);
  let count = grey.length;
  for (let from = 0; from < grey.length; from += CHUNK_PX)
    count -= kernels.countFrom(FIRST_BYTE, readChunk(grey, from, bytes), than);
  return count;
}

/** Samples from there on, and 0 behind the last. @returns how many */
function readChunk(samples: Uint8ClampedArray, from: number, bytes: Uint8Array): number {
  const chunk = samples.subarray(from, from + CHUNK_PX);
  bytes.set(chunk, FIRST_BYTE);
  bytes.fill(0, FIRST_BYTE + chunk.length, FIRST_BYTE + chunk.length + 16);
  return chunk.length;
}
