import { lightnessShare, PAPER_LEVEL } from '../light/paperShare';
import { INK_KERNELS } from '../kernels/inkKernels';
import { FIRST_BYTE, scratchKernels } from '../kernels/startKernels';
import { fadeRuledLines } from './fadeRules';
import type { LitPage } from './litPage';

/** How dark each pixel is beside the paper: 0 for paper and what is brighter, PAPER_LEVEL for no light at all; one byte. */
export interface InkPlane {
  readonly width: number;
  readonly height: number;
  readonly depth: Uint8ClampedArray<ArrayBuffer>;
}

/** @param fadeRules - without ruled lines and squares */
export function inkPlane({ page, field }: LitPage, fadeRules: boolean): InkPlane {
  const depth = lightnessShare(page, field);
  for (let i = 0; i < depth.length; i++) depth[i] = PAPER_LEVEL - depth[i]!;
  const { width, height } = page;
  return { width, height, depth: fadeRules ? fadeRuledLines(depth, width, height) : depth };
}

interface InkKernels {
  binomialRow(above: number, here: number, below: number, width: number, out: number): void;
}
const start = scratchKernels<InkKernels>(INK_KERNELS);

/** Means of 3 × 3 pixels with binomial weights: takes the finest grain out. Beyond the border the last pixel repeats. */
export function smoothGrain({ width, height, depth }: InkPlane): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(depth.length);
  // three rows, with a pixel before and behind, and a fourth for what comes of them
  const room = width + 32;
  const rowAt = (y: number): number => FIRST_BYTE + 16 + (y % 3) * room;
  const outAt = FIRST_BYTE + 3 * room;
  const { kernels, buffer } = start(outAt + room);
  const bytes = new Uint8ClampedArray(buffer);
  const smoothed = bytes.subarray(outAt, outAt + width);
  const read = (y: number): void => {
    const at = rowAt(y);
    bytes.set(depth.subarray(y * width, (y + 1) * width), at);
    bytes[at - 1] = bytes[at]!;
    bytes[at + width] = bytes[at + width - 1]!;
  };
  read(0);
  for (let y = 0; y < height; y++) {
    if (y + 1 < height) read(y + 1);
    kernels.binomialRow(rowAt(Math.max(0, y - 1)), rowAt(y), rowAt(Math.min(height - 1, y + 1)), width, outAt);
    out.set(smoothed, y * width);
  }
  return out;
}
