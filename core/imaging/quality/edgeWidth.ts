import { placeOnQuad, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { quantile } from '../raster/quantile';
import { measurePixelNoise } from './pixelNoise';

/*
 * How blurred a page is, from the page alone.
 * Ink on paper is a step whose width the camera decides. Short runs of pixels across strong edges are read; the width of an
 * edge is its contrast over its steepest slope, along the gradient. The sharpest quarter of the edges speaks, because
 * shadows, rules out of focus and pencil are wider whatever the camera does (after the edge-width measures of Marziliano et
 * al., ICIP 2002).
 * Fails on a page with hardly any ink: null then.
 */

/** Blocks looked at across a page, and down. */
const BLOCKS = 24;
/** Their side, px. */
const BLOCK_PX = 40;
/** Edges must rise above paper grain by this, levels. */
const LEAST_CONTRAST = 28;
/** And above the noise of a dim picture by this many standard deviations. */
const LEAST_OVER_NOISE = 7;
/** Edges in one direction below which it says nothing. */
const LEAST_EDGES = 40;
/** How far from its steepest place an edge is followed, px. */
const REACH_PX = 7;

/**
 * Measures how blurred a page is; method and limits above.
 * @param photo - at its full size; blocks of it are read, not all
 * @returns the width of its sharpest edges in pixels (about 1.2 is as sharp as a camera gets), or null without edges
 */
export function measureEdgeWidth(photo: PixelImage, page: Quad): number | null {
  const { width, height, channels, data } = photo;
  const green = channels === 1 ? 0 : 1;
  const light = (x: number, y: number): number => data[(y * width + x) * channels + green]!;
  const widths: readonly [number[], number[]] = [[], []];
  const leastContrast = Math.max(LEAST_CONTRAST, LEAST_OVER_NOISE * measurePixelNoise(photo, page));
  for (let j = 0; j < BLOCKS; j++) {
    for (let i = 0; i < BLOCKS; i++) {
      const p = placeOnQuad(page, 0.04 + (0.92 * (i + 0.5)) / BLOCKS, 0.04 + (0.92 * (j + 0.5)) / BLOCKS);
      const left = Math.floor(p.x - BLOCK_PX / 2);
      const top = Math.floor(p.y - BLOCK_PX / 2);
      if (
        left < REACH_PX + 1 ||
        top < REACH_PX + 1 ||
        left + BLOCK_PX + REACH_PX + 1 >= width ||
        top + BLOCK_PX + REACH_PX + 1 >= height
      )
        continue;
      steepestIn(light, left, top, leastContrast).forEach(
        (found, direction) => found !== null && widths[direction]!.push(found),
      );
    }
  }
  // a hand that slips blurs one direction and spares the other: the worse one speaks
  const enough = widths.filter((each) => each.length >= LEAST_EDGES);
  return enough.length === 0 ? null : Math.max(...enough.map((each) => quantile(each, 0.25)));
}

/** Widths of the steepest edges of a block, along rows and along columns. */
function steepestIn(
  light: (x: number, y: number) => number,
  left: number,
  top: number,
  leastContrast: number,
): readonly (number | null)[] {
  return (
    [
      [1, 0],
      [0, 1],
    ] as const
  ).map(([dx, dy]) => {
    let steepest = 0;
    let at = null as [number, number] | null;
    for (let y = top; y < top + BLOCK_PX; y += dy === 0 ? 3 : 1) {
      for (let x = left; x < left + BLOCK_PX; x += dx === 0 ? 3 : 1) {
        const slope = Math.abs(light(x + dx, y + dy) - light(x - dx, y - dy));
        if (slope > steepest) {
          steepest = slope;
          at = [x, y];
        }
      }
    }
    return at === null ? null : widthAt(light, at, [dx, dy], leastContrast);
  });
}

/** Walks from the steepest place to both ends of the edge; its contrast over its mean slope in the middle. */
function widthAt(
  light: (x: number, y: number) => number,
  [x, y]: readonly [number, number],
  [dx, dy]: readonly [number, number],
  leastContrast: number,
): number | null {
  const at = (k: number): number => light(x + k * dx, y + k * dy);
  const sign = Math.sign(at(1) - at(-1));
  let low = -1;
  while (low > -REACH_PX && (at(low) - at(low - 1)) * sign > 0) low--;
  let high = 1;
  while (high < REACH_PX && (at(high + 1) - at(high)) * sign > 0) high++;
  const contrast = (at(high) - at(low)) * sign;
  if (contrast < leastContrast) return null;
  const slope = Math.max(Math.abs(at(1) - at(0)), Math.abs(at(0) - at(-1)), Math.abs(at(1) - at(-1)) / 2);
  // an oblique edge looks wider along a row than it is across: the other direction's slope says by how much
  const across = Math.abs(light(x + dy, y + dx) - light(x - dy, y - dx)) / 2;
  const along = Math.abs(at(1) - at(-1)) / 2;
  return (contrast / slope) * (along / Math.sqrt(along * along + across * across));
}
