import type { PixelImage } from '../raster/pixelImage';

/** A spot of fewer pixels than this, for a page 1000 px long, is grain; a full stop of a fine pen is larger. */
const LEAST_AREA_AT_1000 = 1.1;

/** Four white pixels, read as one number. */
const FOUR_BARE = 0xffffffff;

/**
 * Takes spots too small to have been written out of a bilevel page, in place.
 * Method: runs of ink joined to those they touch in the row above (8-connected), with union–find.
 * @param page - grey, 0 for ink and 255 for paper
 */
export function despeckleInto(page: PixelImage): PixelImage {
  const { width, height, data } = page;
  const least = Math.max(2, Math.round(LEAST_AREA_AT_1000 * (Math.max(width, height) / 1000) ** 2));
  const starts: number[] = [];
  const ends: number[] = [];
  const parents: number[] = [];
  const areas: number[] = [];
  const find = (run: number): number => {
    let root = run;
    while (parents[root] !== root) root = parents[root]!;
    while (parents[run] !== root) {
      const next = parents[run]!;
      parents[run] = root;
      run = next;
    }
    return root;
  };
  const fours = new Uint32Array(data.buffer, data.byteOffset, data.byteOffset % 4 === 0 ? data.length >> 2 : 0);
  let aboveFrom = 0;
  let aboveTo = 0;
  for (let y = 0; y < height; y++) {
    const rowStart = y * width;
    const rowEnd = rowStart + width;
    const first = starts.length;
    let above = aboveFrom;
    for (let i = rowStart; i < rowEnd; i++) {
      if (data[i] !== 0) {
        // most of a page is bare: four of its pixels at a time
        while ((i & 3) === 3 && i + 4 < rowEnd && fours[(i + 1) >> 2] === FOUR_BARE) i += 4;
        continue;
      }
      let end = i + 1;
      while (end < rowEnd && data[end] === 0) end++;
      const run = starts.length;
      starts.push(i);
      ends.push(end);
      parents.push(run);
      areas.push(end - i);
      // runs above that reach from one px before to one px behind this one
      while (above < aboveTo && ends[above]! + width < i) above++;
      for (let k = above; k < aboveTo && starts[k]! + width <= end; k++) {
        const a = find(k);
        const b = find(run);
        if (a === b) continue;
        parents[b] = a;
        areas[a]! += areas[b]!;
      }
      i = end;
    }
    aboveFrom = first;
    aboveTo = starts.length;
  }
  for (let run = 0; run < starts.length; run++) if (areas[find(run)]! < least) data.fill(255, starts[run], ends[run]);
  return page;
}
