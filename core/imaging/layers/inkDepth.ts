import { withWorkspace, type ClampedSlot } from '../kernels/workspace';
import { largestByteAround } from '../raster/morphology';
import type { PixelImage } from '../raster/pixelImage';

/** So many pixels are in the kernels' memory at a time. */
const CHUNK_PX = 1 << 16;

/** Of every pixel of a page, row by row, one byte each. */
export interface InkDepth {
  /** How far it is from white, 0 to 255: by the channel that says most, so that yellow counts as well as black. */
  readonly depth: Uint8ClampedArray<ArrayBuffer>;
  /** Lightness (Rec. 601 weights). */
  readonly grey: Uint8ClampedArray<ArrayBuffer>;
}

/**
 * Reads a finished page’s depth of ink and its lightness.
 * @param page - RGB, RGBA or grey
 */
export function inkDepthOf({ width, height, channels, data }: PixelImage): InkDepth {
  const depth = new Uint8ClampedArray(width * height);
  if (channels === 1) {
    for (let i = 0; i < depth.length; i++) depth[i] = 255 - data[i]!;
    return { depth, grey: data };
  }
  const grey = new Uint8ClampedArray(width * height);
  return withWorkspace((ws) => {
    const pixels = ws.clamped(3 * CHUNK_PX);
    const depths = ws.clamped(CHUNK_PX);
    const greys = ws.clamped(CHUNK_PX);
    for (let from = 0; from < depth.length; from += CHUNK_PX) {
      const count = Math.min(CHUNK_PX, depth.length - from);
      if (channels === 3) pixels.set(data.subarray(3 * from, 3 * (from + count)));
      else
        pixels.view((samples) => {
          for (let i = 0; i < count; i++) for (let c = 0; c < 3; c++) samples[3 * i + c] = data[4 * (from + i) + c]!;
        });
      ws.kernels.depthAndGrey(pixels.at, count, depths.at, greys.at);
      depths.copyInto(depth, from, count);
      greys.copyInto(grey, from, count);
    }
    return { depth, grey };
  });
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
  return withWorkspace((ws) => {
    const depths = ws.clamped(CHUNK_PX + 16);
    const fulls = ws.clamped(CHUNK_PX);
    const marked = ws.u8(CHUNK_PX + 16);
    let count = 0;
    for (let from = 0; from < depth.length; from += CHUNK_PX) {
      const length = readChunk(depth, from, depths);
      fulls.set(full.subarray(from, from + length));
      ws.kernels.markInk(depths.at, fulls.at, length, least, Math.round(256 * share), marked.at);
      count += ws.kernels.countFrom(marked.at, length, 1);
      marked.copyInto(is, from, length);
    }
    return { is, count };
  });
}

/** How many of a plane's samples are darker than this. */
export function countDarker(grey: Uint8ClampedArray, than: number): number {
  return withWorkspace((ws) => {
    const chunk = ws.clamped(CHUNK_PX + 16);
    let count = grey.length;
    for (let from = 0; from < grey.length; from += CHUNK_PX)
      count -= ws.kernels.countFrom(chunk.at, readChunk(grey, from, chunk), than);
    return count;
  });
}

/** Samples from there on, and 0 behind the last. @returns how many */
function readChunk(samples: Uint8ClampedArray, from: number, into: ClampedSlot): number {
  const chunk = samples.subarray(from, from + CHUNK_PX);
  into.set(chunk);
  into.fill(0, chunk.length, chunk.length + 16);
  return chunk.length;
}
