/** Largest (dilate) or smallest (erode) value of a (2r+1)×(2r+1) square around each sample; beyond the border nothing counts. */
export type Extreme = 'largest' | 'smallest';

/**
 * Flat grey morphology with a square, rows then columns.
 * Method: van Herk 1992 / Gil & Werman 1993, three comparisons a sample whatever the radius.
 * @param plane - width × height samples
 * @param radius - in px, at least 1
 */
export function extremeFilter(plane: Float32Array, width: number, height: number, radius: number, extreme: Extreme): Float32Array {
  const rows = new Float32Array(plane.length);
  const out = new Float32Array(plane.length);
  for (let y = 0; y < height; y++) extremeAlong(plane, rows, y * width, 1, width, radius, extreme);
  for (let x = 0; x < width; x++) extremeAlong(rows, out, x, width, height, radius, extreme);
  return out;
}

function extremeAlong(from: Float32Array, to: Float32Array, start: number, step: number, length: number, radius: number, extreme: Extreme): void {
  const better = extreme === 'largest' ? Math.max : Math.min;
  const nothing = extreme === 'largest' ? -Infinity : Infinity;
  const span = 2 * radius + 1;
  const padded = Math.ceil((length + 2 * radius) / span) * span;
  const value = (i: number): number => {
    const at = i - radius;
    return at < 0 || at >= length ? nothing : from[start + at * step]!;
  };
  const prefix = new Float32Array(padded);
  const suffix = new Float32Array(padded);
  for (let i = 0; i < padded; i++) prefix[i] = i % span === 0 ? value(i) : better(prefix[i - 1]!, value(i));
  for (let i = padded - 1; i >= 0; i--) suffix[i] = i % span === span - 1 ? value(i) : better(suffix[i + 1]!, value(i));
  for (let i = 0; i < length; i++) to[start + i * step] = better(suffix[i]!, prefix[i + span - 1]!);
}

/** Closing: fills dark details narrower than the square, and leaves the edges of larger things where they are. */
export function closePlane(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  return extremeFilter(extremeFilter(plane, width, height, radius, 'largest'), width, height, radius, 'smallest');
}
