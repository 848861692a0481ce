import { ENLARGE_KERNELS } from '../kernels/enlargeKernels';
import { FIRST_BYTE, roomFor, scratchKernels } from '../kernels/startKernels';

export interface EnlargeKernels {
  mixRows(above: number, below: number, share: number, width: number, line: number): void;
  spreadRow(line: number, lefts: number, shares: number, count: number, out: number, step: number): void;
}

export const startEnlarge = scratchKernels<EnlargeKernels>(ENLARGE_KERNELS);

/** Where the samples of a longer line are read in a shorter one: between `lefts` and the sample after it, by `shares`. */
export interface Places {
  readonly lefts: Int32Array;
  readonly shares: Float32Array;
}

/** Sample middles lie at halves, and beyond the border the last sample repeats. */
export function placesIn(length: number, toLength: number): Places {
  const lefts = new Int32Array(toLength);
  const shares = new Float32Array(toLength);
  for (let k = 0; k < toLength; k++) {
    const at = Math.min(length - 1, Math.max(0, ((k + 0.5) / toLength) * length - 0.5));
    lefts[k] = Math.floor(at);
    shares[k] = at - lefts[k]!;
  }
  return { lefts, shares };
}

/**
 * Enlarges a plane bilinearly, columns and rows apart (kernels/enlarge.as.ts); sample middles lie at halves, and beyond the
 * border the last repeats.
 * @param plane - width × height samples
 */
export function enlargePlane(
  plane: Float32Array,
  width: number,
  height: number,
  toWidth: number,
  toHeight: number,
): Float32Array {
  const leftsAt = FIRST_BYTE + roomFor(plane.length);
  const sharesAt = leftsAt + roomFor(toWidth);
  const lineAt = sharesAt + roomFor(toWidth);
  const outAt = lineAt + roomFor(width + 1);
  const { kernels, buffer } = startEnlarge(outAt + roomFor(toWidth * toHeight));
  new Float32Array(buffer, FIRST_BYTE, plane.length).set(plane);
  const columns = placesIn(width, toWidth);
  new Int32Array(buffer, leftsAt, toWidth).set(columns.lefts);
  new Float32Array(buffer, sharesAt, toWidth).set(columns.shares);
  const rows = placesIn(height, toHeight);
  const rowAt = (y: number): number => FIRST_BYTE + 4 * width * Math.min(height - 1, y);
  for (let y = 0; y < toHeight; y++) {
    kernels.mixRows(rowAt(rows.lefts[y]!), rowAt(rows.lefts[y]! + 1), rows.shares[y]!, width, lineAt);
    kernels.spreadRow(lineAt, leftsAt, sharesAt, toWidth, outAt + 4 * y * toWidth, 4);
  }
  return new Float32Array(buffer, outAt, toWidth * toHeight).slice();
}
