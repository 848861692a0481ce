import { withWorkspace, type Workspace } from '../kernels/workspace';
import { quantile } from '../raster/quantile';
import { connectedRegions } from '../raster/connectedRegions';

/*
 * Rules of squared and lined paper, so pale that grain breaks them: a pixel of one may be as white as paper. What is seen of them is
 * seen along them. A rule runs down or across the page and is deeper than the paper at both of its sides, on the mean of a stretch
 * of it; its edges are where that has half its depth.
 */

/** Half the stretch, px: 1.3 mm at 200 dpi. With a longer one rules that wave are lost, with a shorter one grain shows. */
const REACH_PX = 10;
/** So far from a rule's middle there is paper again, px. */
const ASIDE_PX = 5;
/** A rule is this much deeper than the paper beside it, on the mean of a stretch (levels). */
const LEAST_DEPTH = 6;
/**
 * What is deeper than this share of a page's deep strokes is a stroke; it and what is near it says nothing of a rule. On a blurred page
 * strokes are as pale as strong rules are where they cross on a clear one.
 */
const STROKE_SHARE = 0.53;
/** But so deep it always is; and it need not be deeper than that: rules are half as deep, and cross. */
const STROKE_DEPTHS = { least: 70, most: 110 } as const;
/** A fifth of a page's ink is deeper than its deep strokes are said to be; */
const DEEP = 0.8;
/** ink is what is at least this deep, */
const INK_DEPTH = 60;
/** and one in so many pixels is looked at. */
const LOOK_EVERY = 7;
/** Pixels of a stretch that must be left for it to say something. */
const LEAST_PX = 14;
/** A rule is this long, px, also between two strokes that it crosses: what is shorter is a stroke's rim. */
const LEAST_LENGTH_PX = 36;
/** Half of a stretch, at least, is as deep as this. */
const TINTED_DEPTH = 6;
/**
 * On a page with rules this share of its pixels is as deep and not near a stroke: 5 to 13 % on squared paper, at most 1 % on others
 * (16 simulated pages).
 */
const RULED_SHARE = 0.02;
/** PaleRules.depth is kept in so many parts of a level. */
export const DEPTH_PARTS = 3;

/** Of every pixel of a page, row by row. */
export interface PaleRules {
  /** 1 on a rule, else 0. */
  readonly is: Uint8Array<ArrayBuffer>;
  /**
   * How deep it is on the mean of a stretch of its row or its column, whichever is deeper, in parts of a level; null on a page
   * without rules.
   */
  readonly depth: Uint8Array<ArrayBuffer> | null;
  /** What is as deep as this is a stroke, 0 to 255. */
  readonly strokeDepth: number;
}

/**
 * Finds pale rules.
 * @param depth - of each pixel, row by row, 0 (white) to 255
 * @param full - the depth of the deepest pixel near each of them
 */
export const paleRules = (
  depth: Uint8ClampedArray<ArrayBuffer>,
  full: Uint8ClampedArray<ArrayBuffer>,
  width: number,
): PaleRules => withWorkspace(findRules, depth, full, width);

function findRules(
  ws: Workspace,
  depth: Uint8ClampedArray<ArrayBuffer>,
  full: Uint8ClampedArray<ArrayBuffer>,
  width: number,
): PaleRules {
  const count = depth.length;
  const [depths, fulls] = [ws.of(depth), ws.of(full)];
  const strokeDepth = strokeDepthOf(depth);
  const tinted = ws.kernels.countTinted(depths.at, fulls.at, count, TINTED_DEPTH, strokeDepth);
  const height = count / width;
  const margin = ASIDE_PX * Math.max(1, width);
  if (tinted < RULED_SHARE * count || count <= 2 * margin)
    return { is: new Uint8Array(count), depth: null, strokeDepth };
  const [across, down, is] = [ws.u8(count), ws.u8(count), ws.u8(count)];
  is.fill(0);
  const asked = [width, height, REACH_PX, strokeDepth, LEAST_PX, TINTED_DEPTH, DEPTH_PARTS] as const;
  ws.kernels.meansAcross(depths.at, fulls.at, ...asked, across.at);
  const columns = (width + 9) >> 1;
  const sums = ws.i32(3 * columns);
  sums.fill(0);
  ws.kernels.meansDown(depths.at, fulls.at, ...asked, sums.at, 4 * columns, down.at);
  const least = DEPTH_PARTS * LEAST_DEPTH;
  const inner = count - 2 * margin;
  ws.kernels.markRidges(across.addressOf(margin), inner, width, ASIDE_PX, least, is.addressOf(margin));
  // at the page's sides this looks around to the other side, where there is paper as well
  ws.kernels.markRidges(down.addressOf(margin), inner, 1, ASIDE_PX, least, is.addressOf(margin));
  ws.kernels.largerOf(across.at, down.at, count);
  const marked = is.copy();
  for (const { left, right, top, bottom, pixels } of connectedRegions(marked, width, height))
    if (Math.max(right - left, bottom - top) < LEAST_LENGTH_PX) for (const i of pixels) marked[i] = 0;
  return { is: marked, depth: across.copy(), strokeDepth };
}

function strokeDepthOf(depth: Uint8ClampedArray): number {
  const inked: number[] = [];
  for (let i = 0; i < depth.length; i += LOOK_EVERY) if (depth[i]! >= INK_DEPTH) inked.push(depth[i]!);
  const depthOfStrokes = STROKE_SHARE * quantile(inked, DEEP, 255);
  return Math.round(Math.min(STROKE_DEPTHS.most, Math.max(STROKE_DEPTHS.least, depthOfStrokes)));
}
