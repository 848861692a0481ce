import { lightnessShare, PAPER_LEVEL } from '../light/paperShare';
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

/** Means of 3 × 3 pixels with binomial weights: takes the finest grain out. */
export function smoothGrain({ width, height, depth }: InkPlane): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(depth.length);
  const column = new Uint16Array(width);
  for (let y = 0; y < height; y++) {
    const here = y * width;
    const above = y === 0 ? here : here - width;
    const below = y === height - 1 ? here : here + width;
    for (let x = 0; x < width; x++) column[x] = depth[above + x]! + 2 * depth[here + x]! + depth[below + x]!;
    out[here] = (3 * column[0]! + (column[1] ?? column[0]!)) >> 4;
    for (let x = 1; x < width - 1; x++) out[here + x] = (column[x - 1]! + 2 * column[x]! + column[x + 1]! + 8) >> 4;
    if (width > 1) out[here + width - 1] = (3 * column[width - 1]! + column[width - 2]!) >> 4;
  }
  return out;
}
