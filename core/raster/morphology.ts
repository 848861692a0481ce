/** Largest (dilate) or smallest (erode) value of a (2r+1)×(2r+1) square around each sample; beyond the border nothing counts. */
export type Extreme = 'largest' | 'smallest';

/**
 * Flat grey morphology with a square, rows then columns.
 * Method: van Herk 1992 / Gil & Werman 1993, three comparisons a sample whatever the radius. Columns are done whole rows
 * at a time, so that memory is read in order; the smallest of values is the largest of their negatives.
 * @param plane - width × height samples
 * @param radius - in px, at least 1
 * @param along - rows or columns alone make the square a line
 */
export function extremeFilter(plane: Float32Array, width: number, height: number, radius: number, extreme: Extreme, along: 'both' | 'rows' | 'columns' = 'both'): Float32Array {
  const out = new Float32Array(plane.length);
  if (extreme === 'largest') out.set(plane);
  else for (let i = 0; i < out.length; i++) out[i] = -plane[i]!;
  if (along !== 'columns') largestAlongRows(out, width, height, radius);
  if (along !== 'rows') largestAlongColumns(out, width, height, radius);
  if (extreme === 'smallest') for (let i = 0; i < out.length; i++) out[i] = -out[i]!;
  return out;
}

function largestAlongRows(plane: Float32Array, width: number, height: number, radius: number): void {
  const span = 2 * radius + 1;
  const padded = Math.ceil((width + 2 * radius) / span) * span;
  const prefix = new Float32Array(padded).fill(-Infinity);
  const suffix = new Float32Array(padded);
  for (let y = 0; y < height; y++) {
    const start = y * width;
    prefix.fill(-Infinity, 0, radius);
    prefix.fill(-Infinity, radius + width);
    for (let x = 0; x < width; x++) prefix[radius + x] = plane[start + x]!;
    for (let from = 0; from < padded; from += span) {
      let most = -Infinity;
      for (let i = from + span - 1; i >= from; i--) {
        const v = prefix[i]!;
        if (v > most) most = v;
        suffix[i] = most;
      }
      most = -Infinity;
      for (let i = from; i < from + span; i++) {
        const v = prefix[i]!;
        if (v > most) most = v;
        prefix[i] = most;
      }
    }
    for (let x = 0; x < width; x++) {
      const a = suffix[x]!;
      const b = prefix[x + span - 1]!;
      plane[start + x] = a > b ? a : b;
    }
  }
}

function largestAlongColumns(plane: Float32Array, width: number, height: number, radius: number): void {
  const span = 2 * radius + 1;
  const padded = Math.ceil((height + 2 * radius) / span) * span;
  // blocks of `span` rows: what is largest from a block's begin down to a row, and from a row down to its block's end
  const suffix = new Float32Array(span * width);
  const prefix = new Float32Array(span * width);
  const source = plane.slice();
  const fill = (block: Float32Array, first: number, down: boolean): void => {
    for (let k = 0; k < span; k++) {
      const at = (down ? k : span - 1 - k) * width;
      const before = down ? at - width : at + width;
      const y = first + at / width - radius;
      const inside = y >= 0 && y < height;
      const from = y * width;
      for (let x = 0; x < width; x++) {
        const v = inside ? source[from + x]! : -Infinity;
        const most = k === 0 ? -Infinity : block[before + x]!;
        block[at + x] = v > most ? v : most;
      }
    }
  };
  for (let first = 0; first < padded; first += span) {
    fill(suffix, first, false);
    fill(prefix, first + span, true);
    for (let k = 0; k < span; k++) {
      const y = first + k;
      if (y >= height) return;
      // the window of row y reaches from padded row y to y + span - 1: the end of one block and the begin of the next
      for (let x = 0; x < width; x++) {
        const a = suffix[k * width + x]!;
        const b = k === 0 ? a : prefix[(k - 1) * width + x]!;
        plane[y * width + x] = a > b ? a : b;
      }
    }
  }
}

/** Closing: fills dark details narrower than the square, and leaves the edges of larger things where they are. */
export function closePlane(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  return extremeFilter(extremeFilter(plane, width, height, radius, 'largest'), width, height, radius, 'smallest');
}
