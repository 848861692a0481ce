/**
 * Blurs with box filters (means of a square, rows then columns); beyond the border the last sample repeats.
 * Method: running sums, so that the time does not grow with the radius.
 * @param plane - width × height samples, left as they are
 * @param radius - in px: a square of 2 × radius + 1
 * @param passes - three come close to a Gaussian
 * @param along - rows or columns alone make it a line
 */
export function boxBlur(plane: Float32Array, width: number, height: number, radius: number, passes: number, along: 'both' | 'rows' | 'columns' = 'both'): Float32Array {
  const half = new Float32Array(plane.length);
  const out = new Float32Array(plane.length);
  for (let i = 0; i < passes; i++) {
    const from = i === 0 ? plane : out;
    if (along !== 'columns') boxRows(from, along === 'rows' ? out : half, width, height, radius);
    if (along !== 'rows') boxColumns(along === 'columns' ? from : half, out, width, height, radius);
  }
  return out;
}

/** Running mean along rows. */
function boxRows(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const share = 1 / (2 * radius + 1);
  for (let y = 0; y < height; y++) {
    const start = y * width;
    const last = start + width - 1;
    let sum = from[start]! * (radius + 1);
    for (let k = 1; k <= radius; k++) sum += from[Math.min(last, start + k)]!;
    for (let at = start; at <= last; at++) {
      to[at] = sum * share;
      const enters = at + radius + 1;
      const leaves = at - radius;
      sum += from[enters > last ? last : enters]! - from[leaves < start ? start : leaves]!;
    }
  }
}

/** Running mean down columns, whole rows at a time so that memory is read in order. */
function boxColumns(from: Float32Array, to: Float32Array, width: number, height: number, radius: number): void {
  const share = 1 / (2 * radius + 1);
  const sums = new Float32Array(width);
  const row = (y: number): number => Math.min(height - 1, Math.max(0, y)) * width;
  for (let k = -radius; k <= radius; k++) {
    const at = row(k);
    for (let x = 0; x < width; x++) sums[x]! += from[at + x]!;
  }
  for (let y = 0; y < height; y++) {
    const out = y * width;
    const enters = row(y + radius + 1);
    const leaves = row(y - radius);
    for (let x = 0; x < width; x++) {
      to[out + x] = sums[x]! * share;
      sums[x]! += from[enters + x]! - from[leaves + x]!;
    }
  }
}
