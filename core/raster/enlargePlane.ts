/**
 * Enlarges a plane bilinearly, columns and rows apart; sample middles lie at halves, and beyond the border the last repeats.
 * @param plane - width × height samples
 */
export function enlargePlane(plane: Float32Array, width: number, height: number, toWidth: number, toHeight: number): Float32Array {
  const out = new Float32Array(toWidth * toHeight);
  const lefts = new Int32Array(toWidth);
  const shares = new Float32Array(toWidth);
  for (let x = 0; x < toWidth; x++) {
    const at = Math.min(width - 1, Math.max(0, ((x + 0.5) / toWidth) * width - 0.5));
    lefts[x] = Math.floor(at);
    shares[x] = at - lefts[x]!;
  }
  const row = new Float32Array(width + 1);
  for (let y = 0, to = 0; y < toHeight; y++) {
    const at = Math.min(height - 1, Math.max(0, ((y + 0.5) / toHeight) * height - 0.5));
    const above = Math.floor(at) * width;
    const below = Math.min(height - 1, Math.floor(at) + 1) * width;
    const f = at - Math.floor(at);
    for (let x = 0; x < width; x++) row[x] = plane[above + x]! + (plane[below + x]! - plane[above + x]!) * f;
    row[width] = row[width - 1]!;
    for (let x = 0; x < toWidth; x++, to++) {
      const i = lefts[x]!;
      out[to] = row[i]! + (row[i + 1]! - row[i]!) * shares[x]!;
    }
  }
  return out;
}
