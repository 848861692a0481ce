import { placeOnQuad, type Quad } from '../geometry/quad';
import { connectedRegions } from '../raster/connectedRegions';
import type { PixelImage } from '../raster/pixelImage';

/*
 * Is a finger on the page? Skin at the page's rim: seen through the paper's own white (so that a warm lamp does not turn
 * paper into skin), it is redder than it is green and greener than it is blue, within bounds that hold for light and dark
 * skin; it reaches in from a side, covers more than print does, and ends at a line, as the brown of an old page or the shade of a
 * binding do not.
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
/** How wide it is at most, as cells: two fingers side by side. */
const MOST_WIDTH = 30;
/** What paper is less red than skin, from one cell within a finger's rim to two beyond it: 0.15 to 0.45 of its white. */
const STEP = 0.1;
/** Share of a finger's rim at which there is such a step: 0.36 and more at 35 fingers, 0.21 and less on old books. */
const STEEP_SHARE = 0.3;

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
    const redness = new Float32Array(SIDE_CELLS * DEEP_CELLS);
    for (let d = 0; d < DEEP_CELLS; d++) {
      for (let s = 0; s < SIDE_CELLS; s++) {
        const along = (s + 0.5) / SIDE_CELLS;
        const deep = (d + 0.5) / SIDE_CELLS;
        const [u, v] =
          side === 0 ? [along, deep] : side === 1 ? [1 - deep, along] : side === 2 ? [along, 1 - deep] : [deep, along];
        const colour = read(u, v);
        if (colour === null) continue;
        redness[d * SIDE_CELLS + s] = rednessOf(colour, white);
        if (isSkin(colour, white)) skin[d * SIDE_CELLS + s] = 1;
      }
    }
    return reachesIn(skin, redness);
  });
}

type Colour = readonly [number, number, number];

/** How much redder than the paper's own white a colour is, as a share of that white. */
const rednessOf = ([r, , b]: Colour, white: Colour): number => r / Math.max(40, white[0]) - b / Math.max(40, white[2]);

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
export function isSkin([r, g, b]: Colour, white: Colour): boolean {
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
    rednessOf([r, g, b], white) > 0.13
  );
}

/** Whether one connected patch of skin begins at the rim, is as large and as deep as a fingertip, and ends at a line. */
function reachesIn(skin: Uint8Array, redness: Float32Array): boolean {
  return connectedRegions(skin, SIDE_CELLS, DEEP_CELLS).some((patch) => {
    const { pixels, top, bottom, left, right } = patch;
    const width = right - left + 1;
    // a strip of desk along a misplaced side is wide and shallow; a finger is not
    const isFingertip =
      top < 2 &&
      pixels.length >= LEAST_CELLS &&
      bottom >= LEAST_DEPTH &&
      width <= MOST_WIDTH &&
      width < 5 * (bottom + 1);
    return isFingertip && steepShareOf(pixels, redness) >= STEEP_SHARE;
  });
}

/** Share of a patch's rim within the page at which the redness falls steeply. */
function steepShareOf(pixels: readonly number[], redness: Float32Array): number {
  const within = new Set(pixels);
  let rim = 0;
  let steep = 0;
  for (const at of pixels) {
    const s = at % SIDE_CELLS;
    const d = Math.floor(at / SIDE_CELLS);
    for (const [ds, dd] of [
      [1, 0],
      [-1, 0],
      [0, 1],
    ] as const) {
      const beyond = [s + 2 * ds, d + 2 * dd] as const;
      const isRim = !within.has((d + dd) * SIDE_CELLS + s + ds) && beyond[0] >= 0 && beyond[0] < SIDE_CELLS;
      if (!isRim || beyond[1] >= DEEP_CELLS) continue;
      const before = Math.max(0, d - dd) * SIDE_CELLS + Math.min(SIDE_CELLS - 1, Math.max(0, s - ds));
      rim++;
      if (redness[before]! - redness[beyond[1] * SIDE_CELLS + beyond[0]]! > STEP) steep++;
    }
  }
  return rim === 0 ? 0 : steep / rim;
}
