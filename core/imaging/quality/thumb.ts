import { placeOnQuad, type Quad } from '../geometry/quad';
import { connectedRegions } from '../raster/connectedRegions';
import type { PixelImage } from '../raster/pixelImage';

/*
 * Is a finger on the page? Skin at the page's rim: seen through the paper's own white (so that a warm lamp does not turn
 * paper into skin), it is redder than it is green and greener than it is blue, within bounds that hold for light and dark
 * skin; it reaches in from a side and covers more than print does.
 * Fails on brown cardboard that lies over the rim, and on gloves.
 */

/** Cells along a side. */
const SIDE_CELLS = 96;
/** How far in from the sides is looked, as cells. */
const DEEP_CELLS = 22;
/** Cells of skin that make a finger. */
const LEAST_CELLS = 26;
/** How far in from the side it reaches at least, as cells. */
const LEAST_DEPTH = 3;

/**
 * Looks for fingers that reach over the page; method and limits above.
 * @param image - any size; about 1000 px is enough
 * @returns the sides (top, right, bottom, left of the outline) a finger reaches in from
 */
export function findThumbs({ width, height, channels, data }: PixelImage, page: Quad): readonly boolean[] {
  const none = [false, false, false, false];
  if (channels === 1) return none;
  const read = (u: number, v: number): [number, number, number] | null => {
    const p = placeOnQuad(page, u, v);
    const x = Math.floor(p.x);
    const y = Math.floor(p.y);
    if (x < 0 || y < 0 || x >= width || y >= height) return null;
    const at = (y * width + x) * channels;
    return [data[at]!, data[at + 1]!, data[at + 2]!];
  };
  const white = paperWhite(read);
  return none.map((_, side) => {
    const skin = new Uint8Array(SIDE_CELLS * DEEP_CELLS);
    for (let d = 0; d < DEEP_CELLS; d++) {
      for (let s = 0; s < SIDE_CELLS; s++) {
        const along = (s + 0.5) / SIDE_CELLS;
        const deep = (d + 0.5) / SIDE_CELLS;
        const [u, v] =
          side === 0 ? [along, deep] : side === 1 ? [1 - deep, along] : side === 2 ? [along, 1 - deep] : [deep, along];
        const colour = read(u, v);
        if (colour !== null && isSkin(colour, white)) skin[d * SIDE_CELLS + s] = 1;
      }
    }
    return reachesIn(skin);
  });
}

function paperWhite(read: (u: number, v: number) => [number, number, number] | null): [number, number, number] {
  const samples: [number, number, number][] = [];
  for (let j = 1; j < 20; j++)
    for (let i = 1; i < 20; i++) {
      const colour = read(i / 20, j / 20);
      if (colour !== null) samples.push(colour);
    }
  samples.sort((p, q) => p[1] - q[1]);
  return samples[Math.floor(samples.length * 0.75)] ?? [255, 255, 255];
}

/** Whether a colour seen beside the paper’s own white there is skin, light or dark. */
export function isSkin(
  [r, g, b]: readonly [number, number, number],
  white: readonly [number, number, number],
): boolean {
  const red = r / Math.max(40, white[0]);
  const green = g / Math.max(40, white[1]);
  const blue = b / Math.max(40, white[2]);
  return (
    red > 0.22 &&
    red < 1.1 &&
    red / Math.max(0.02, green) > 1.14 &&
    red / Math.max(0.02, green) < 2.4 &&
    green / Math.max(0.02, blue) > 1.02 &&
    green / Math.max(0.02, blue) < 1.9 &&
    red - blue > 0.13
  );
}

/** Whether one connected patch of skin begins at the rim and is as large and as deep as a fingertip. */
function reachesIn(skin: Uint8Array): boolean {
  return connectedRegions(skin, SIDE_CELLS, DEEP_CELLS).some(({ pixels, top, bottom, left, right }) => {
    // a strip of desk along a misplaced side is wide and shallow; a finger is not
    return top < 2 && pixels.length >= LEAST_CELLS && bottom >= LEAST_DEPTH && right - left + 1 < 5 * (bottom + 1);
  });
}
