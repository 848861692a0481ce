import { normaliseLightness, PAPER_LEVEL } from '../light/normaliseLightness';
import { withWorkspace, type ClampedSlot, type Workspace } from '../kernels/workspace';
import { fadeRuledLines } from './fadeRules';
import type { PageLight } from './pageLight';

/** How dark each pixel is beside the paper: 0 for paper and what is brighter, PAPER_LEVEL for no light at all; one byte. */
export interface InkPlane {
  readonly width: number;
  readonly height: number;
  readonly depth: Uint8ClampedArray<ArrayBuffer>;
}

/**
 * Reads how dark each pixel of a page is beside its paper.
 * @param fadeRules - without ruled lines and squares
 */
export function inkPlane({ page, field }: PageLight, fadeRules: boolean): InkPlane {
  const depth = normaliseLightness(page, field);
  for (let i = 0; i < depth.length; i++) depth[i] = PAPER_LEVEL - depth[i]!;
  const { width, height } = page;
  return { width, height, depth: fadeRules ? fadeRuledLines(depth, width, height) : depth };
}

/** Means of 3 × 3 pixels with binomial weights: takes the finest grain out. Beyond the border the last pixel repeats. */
export const smoothGrain = (plane: InkPlane): Uint8ClampedArray<ArrayBuffer> => withWorkspace(smoothRows, plane);

function smoothRows(ws: Workspace, { width, height, depth }: InkPlane): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(depth.length);
  // three rows, with a pixel before and behind
  const rows = [0, 1, 2].map(() => ws.clamped(width + 2));
  const smoothed = ws.clamped(width);
  const rowOf = (y: number): ClampedSlot => rows[Math.min(height - 1, Math.max(0, y)) % 3]!;
  const read = (y: number): void => {
    const row = rowOf(y);
    const samples = depth.subarray(y * width, (y + 1) * width);
    row.set(samples, 1);
    row.fill(samples[0]!, 0, 1);
    row.fill(samples[width - 1]!, width + 1);
  };
  read(0);
  for (let y = 0; y < height; y++) {
    if (y + 1 < height) read(y + 1);
    ws.kernels.binomialRow(
      rowOf(y - 1).addressOf(1),
      rowOf(y).addressOf(1),
      rowOf(y + 1).addressOf(1),
      width,
      smoothed.at,
    );
    smoothed.copyInto(out, y * width);
  }
  return out;
}
