import { applyHomography, type Homography } from '../geometry/homography';
import type { Point } from '../geometry/point';
import type { Plane } from '../raster/plane';
import { followTile } from './followTile';

/** Where the middle of a tile of the reference lies in the frame. */
export interface FollowedTile {
  readonly from: Point;
  readonly to: Point;
}

interface Tiling {
  /** Where they are thought to lie. */
  readonly start: Homography;
  /** Side of a tile and distance between two, px. */
  readonly tilePx: number;
  readonly stepPx: number;
  /** Which middles are asked for; all by default. */
  readonly among?: (middle: Point) => boolean;
}

/** Follows tiles of one plane, evenly laid out, into another of its size; those without texture, or that run away, are left out. */
export function followTiles(
  reference: Plane,
  frame: Plane,
  { start, tilePx, stepPx, among = () => true }: Tiling,
): FollowedTile[] {
  const followed: FollowedTile[] = [];
  for (let top = 2; top + tilePx + 2 < reference.height; top += stepPx) {
    for (let left = 2; left + tilePx + 2 < reference.width; left += stepPx) {
      const from = { x: left + tilePx / 2, y: top + tilePx / 2 };
      if (!among(from)) continue;
      const to = followTile({ reference, left, top, size: tilePx }, frame, applyHomography(start, from));
      if (to !== null) followed.push({ from, to });
    }
  }
  return followed;
}
