import type { Point } from '../geometry/point';

/** Cells across a page, and down. */
const FINGERPRINT_SIDE = 32;
/** Samples across a cell, and down. */
const SAMPLES_PER_CELL = 3;
/** Share of the page along its sides that is left out: an outline is never quite the same twice. */
const MARGIN_FRACTION = 0.06;
/** A cell darker than this (a black heading, a bit of desk) counts no more than this. */
const MOST_INK = 0.25;
/**
 * How much ink lies in each cell of the page, whatever the light: what a cell's mean lacks to the brightest paper nearby.
 */
export function fingerprintOf(
  light: (x: number, y: number) => number,
  place: (u: number, v: number) => Point,
  width: number,
  height: number,
): Float32Array {
  const n = FINGERPRINT_SIDE;
  const mean = new Float32Array(n * n);
  const brightest = new Float32Array(n * n);
  for (let j = 0; j < n; j++) {
    for (let i = 0; i < n; i++) {
      let sum = 0;
      let most = 1;
      for (let k = 0; k < SAMPLES_PER_CELL * SAMPLES_PER_CELL; k++) {
        // a little inside the page, so that the desk at its rim does not count
        const u =
          MARGIN_FRACTION + ((1 - 2 * MARGIN_FRACTION) * (i + ((k % SAMPLES_PER_CELL) + 0.5) / SAMPLES_PER_CELL)) / n;
        const v =
          MARGIN_FRACTION +
          ((1 - 2 * MARGIN_FRACTION) * (j + (Math.floor(k / SAMPLES_PER_CELL) + 0.5) / SAMPLES_PER_CELL)) / n;
        const p = place(u, v);
        const level = light(
          Math.min(width - 1, Math.max(0, Math.floor(p.x))),
          Math.min(height - 1, Math.max(0, Math.floor(p.y))),
        );
        sum += level;
        most = Math.max(most, level);
      }
      mean[j * n + i] = sum / (SAMPLES_PER_CELL * SAMPLES_PER_CELL);
      brightest[j * n + i] = most;
    }
  }
  const paper = overNeighbours(brightest, n, 2, Math.max, 0);
  const ink = mean.map((level, i) => Math.min(MOST_INK, 1 - level / paper[i]!));
  // an outline that is off by a pixel must not make another page of it
  const soft = overNeighbours(ink, n, 1, (a, b) => a + b, 0);
  const middle = soft.reduce((sum, v) => sum + v, 0) / soft.length;
  const off = soft.map((v) => v - middle);
  const norm = Math.sqrt(off.reduce((sum, v) => sum + v * v, 0)) || 1;
  return off.map((v) => v / norm);
}
/** Joins each cell with its neighbours up to `reach` away. */

function overNeighbours(
  cells: Float32Array,
  n: number,
  reach: number,
  join: (a: number, b: number) => number,
  start: number,
): Float32Array {
  return cells.map((_, i) => {
    let joined = start;
    for (let y = Math.max(0, Math.floor(i / n) - reach); y <= Math.min(n - 1, Math.floor(i / n) + reach); y++) {
      for (let x = Math.max(0, (i % n) - reach); x <= Math.min(n - 1, (i % n) + reach); x++)
        joined = join(joined, cells[y * n + x]!);
    }
    return joined;
  });
}
/** How alike two fingerprints are (of unit norm, same length): their correlation, -1 to 1. */

export function fingerprintSimilarity(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}
