/** Samples of a mask that touch each other, and the box around them, its last column and row within. */
export interface Region {
  readonly pixels: readonly number[];
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/**
 * The 4-connected regions of a mask, in reading order of their first samples.
 * @param mask - width × height, anything but 0 is in
 */
export function connectedRegions(mask: Uint8Array, width: number, height: number): Region[] {
  const seen = new Uint8Array(mask.length);
  const regions: Region[] = [];
  for (let start = 0; start < mask.length; start++) {
    if (mask[start] === 0 || seen[start] === 1) continue;
    const pixels = [start];
    seen[start] = 1;
    let [left, top, right, bottom] = [width, height, 0, 0];
    for (let k = 0; k < pixels.length; k++) {
      const at = pixels[k]!;
      const x = at % width;
      const y = (at - x) / width;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = Math.max(bottom, y);
      const visit = (next: number): void => {
        if (mask[next] === 0 || seen[next] === 1) return;
        seen[next] = 1;
        pixels.push(next);
      };
      if (x > 0) visit(at - 1);
      if (x < width - 1) visit(at + 1);
      if (y > 0) visit(at - width);
      if (y < height - 1) visit(at + width);
    }
    regions.push({ pixels, left, top, right, bottom });
  }
  return regions;
}
