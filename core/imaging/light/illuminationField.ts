import { lumaOf } from '../raster/lightness';
import { fieldCells } from './fieldCells';
import { boxBlur } from '../raster/boxBlur';
import { enlargePlane } from '../raster/enlargePlane';
import { guidedSmooth } from '../raster/guidedSmooth';
import { halveImage } from '../raster/halveImage';
import { closePlane } from '../raster/morphology';
import { lightnessPlane } from '../raster/plane';
import { fitLongSide } from '../raster/resizeByArea';
import type { PixelImage } from '../raster/pixelImage';
import { releaseBuffers } from '../raster/releaseBuffers';
import { fillMasked } from './fillMasked';
import { findNonPaper, STROKE_RADIUS_PX } from './nonPaperMask';

/*
 * How much light, and of which colour, the bare paper would send back at every place of the page.
 * 1. On a small copy each channel is closed (morphology) with a square wider than any stroke: ink vanishes, shadow edges
 *    stay where they are.
 * 2. Things that are dark or coloured and wider than that (a printed banner, a filled box, a picture) would pass for
 *    shadow. They are told apart by depth (no shadow takes more than about nine tenths of the light, on the 8-bit
 *    scale more than six tenths of the value) and by colour (a shadow keeps the paper's), and filled in from around them.
 * 3. A light blur takes out what paper grain is left.
 * 4. Where that field is steep, there is a shadow's edge: it is followed in a larger copy, closed with a smaller square
 *    and smoothed along itself (guided filter), so that no ghost line stays behind.
 * Fails on pages that are mostly dark (photographs to the edge): then there is no paper to learn from.
 */

/** Long side of the copy that light is estimated on: one size for preview and file, so that both get the same field. */
const COARSE_LONG_SIDE_PX = 480;
/** Long side of the copy in which shadow edges are followed, at most: the page halved until it is no longer. */
const FIELD_LONG_SIDE_PX = 1400;
/** Of the fine copy's long side: 2 mm of A4. */
const FINE_STROKE_RADIUS = 0.0067;
/** Relative change of the field per px of the coarse copy where a shadow's edge begins to be followed. */
const STEEP_FROM = 0.008;
/** And where it wholly is. */
const STEEP_TO = 0.03;
/** Half the square that smoothing looks at, px. */
const GUIDED_RADIUS_PX = 3;
/** Relative contrast that smoothing keeps. */
const GUIDED_CONTRAST = 0.03;

export interface IlluminationField {
  readonly width: number;
  readonly height: number;
  /** One plane a channel (1 or 3), 8-bit scale, never under 1. */
  readonly planes: readonly Float32Array[];
  /** 1 where something wide and dark or coloured lies on the paper: a picture, a filled box. */
  readonly nonPaper: Uint8Array;
}

/**
 * Estimates the illumination field of a flat page.
 * @param page - flattened page, grey or RGB
 * @param covered - 255 where something lies on the page that is no part of it, page-sized; the light there comes from around it
 * @returns a field at most 1400 px long, covering the whole page
 */
export function estimateIlluminationField(page: PixelImage, covered: PixelImage | null = null): IlluminationField {
  let fine = page;
  let mask = covered;
  // page and mask are made smaller in the same steps: rounded otherwise, the mask would be read with rows of another length
  while (Math.max(fine.width, fine.height) > FIELD_LONG_SIDE_PX) {
    fine = halveImage(fine);
    if (mask !== null) mask = halveImage(mask);
  }
  const small = fitLongSide(fine, COARSE_LONG_SIDE_PX);
  const coarse = coarseField(small, mask === null ? null : fitLongSide(mask, COARSE_LONG_SIDE_PX));
  const { width, height } = fine;
  const follow = followShadowEdges(fine, coarse);
  const planes = coarse.planes.map((plane) => {
    const large = enlargePlane(plane, coarse, { width, height });
    if (follow !== null) for (let i = 0; i < large.length; i++) large[i]! *= follow[i]!;
    return atLeastOne(large);
  });
  const nonPaper = new Uint8Array(width * height);
  if (coarse.nonPaper.includes(1)) {
    const { columnOf, rowOf } = fieldCells(fine, coarse);
    for (let y = 0, to = 0; y < height; y++)
      for (let x = 0; x < width; x++, to++) nonPaper[to] = coarse.nonPaper[rowOf[y]! + columnOf[x]!]!;
  }
  releaseBuffers(...(follow === null ? [] : [follow]), ...coarse.planes);
  if (small !== fine) releaseBuffers(small.data);
  if (fine !== page) releaseBuffers(fine.data);
  return { width, height, planes, nonPaper };
}

function coarseField({ width, height, channels, data }: PixelImage, covered: PixelImage | null): IlluminationField {
  const colours = channels === 1 ? 1 : 3;
  const planes = Array.from({ length: colours }, (_, c) => {
    const plane = new Float32Array(width * height);
    for (let i = 0; i < plane.length; i++) plane[i] = data[i * channels + c]!;
    return plane;
  });
  const closed = planes.map((plane) => closePlane(plane, width, height, STROKE_RADIUS_PX));
  const nonPaper = findNonPaper(planes, closed, width, height);
  if (covered !== null) for (let i = 0; i < nonPaper.length; i++) if (covered.data[i]! > 0) nonPaper[i] = 1;
  const lit = closed.map((plane) =>
    atLeastOne(boxBlur(fillMasked(plane, nonPaper, width, height), width, height, { radius: 2 })),
  );
  return { width, height, planes: lit, nonPaper };
}

/** Raises what is less in place, and returns it. */
function atLeastOne(plane: Float32Array): Float32Array {
  for (let i = 0; i < plane.length; i++) if (!(plane[i]! >= 1)) plane[i] = 1;
  return plane;
}

/** What the coarse field is to be multiplied by, at the fine copy's size: 1 but at shadow edges; null where there are none. */
function followShadowEdges(fine: PixelImage, coarse: IlluminationField): Float32Array | null {
  const { width, height } = fine;
  const lightness = meanLightness(coarse.planes);
  const steepness = steepnessOf(lightness, coarse);
  if (steepness.every((s) => s === 0)) return null;
  const out = new Float32Array(width * height).fill(1);
  const { data: seen } = lightnessPlane(fine);
  const closed = closePlane(seen, width, height, Math.max(2, Math.round(FINE_STROKE_RADIUS * Math.max(width, height))));
  const ratio = guidedSmooth(closed, width, height, GUIDED_RADIUS_PX, GUIDED_CONTRAST);
  const large = enlargePlane(lightness, coarse, { width, height });
  for (let i = 0; i < ratio.length; i++) ratio[i]! /= Math.max(1, large[i]!);
  // noise lifts what was closed by another amount: on the whole the two must agree
  const bias = boxBlur(ratio, width, height, { radius: 24, passes: 2 });
  const weight = enlargePlane(steepness, coarse, { width, height });
  for (let i = 0; i < out.length; i++)
    if (weight[i]! > 0)
      out[i] = 1 + weight[i]! * (Math.min(1.6, Math.max(0.6, ratio[i]! / Math.max(0.05, bias[i]!))) - 1);
  releaseBuffers(seen, closed, ratio, large, bias, weight);
  return out;
}

/** 0 where the field is even, 1 where it is as steep as a shadow's edge; 0 beside what is no paper. */
function steepnessOf(lightness: Float32Array, { width, height, nonPaper }: IlluminationField): Float32Array {
  const reach = 2;
  const steep = new Float32Array(lightness.length);
  for (let y = reach; y < height - reach; y++) {
    for (let x = reach; x < width - reach; x++) {
      const i = y * width + x;
      const across = lightness[i + reach]! - lightness[i - reach]!;
      const down = lightness[i + reach * width]! - lightness[i - reach * width]!;
      const relative = Math.sqrt(across * across + down * down) / (2 * reach) / Math.max(8, lightness[i]!);
      steep[i] = Math.min(1, Math.max(0, (relative - STEEP_FROM) / (STEEP_TO - STEEP_FROM)));
    }
  }
  const spread = boxBlur(steep, width, height, { radius: 2, passes: 2 }).map((v) => Math.min(1, 2.5 * v));
  const clear = boxBlur(Float32Array.from(nonPaper), width, height, { radius: 3 });
  return spread.map((v, i) => (v < 0.05 ? 0 : v * Math.max(0, 1 - 4 * clear[i]!)));
}

/** Lightness (Rec. 601 weights) of planes of red, green and blue; of a grey plane, itself. */
export function meanLightness(planes: readonly Float32Array[]): Float32Array {
  if (planes.length === 1) return planes[0]!;
  const [r, g, b] = planes as [Float32Array, Float32Array, Float32Array];
  const out = new Float32Array(r.length);
  for (let i = 0; i < out.length; i++) out[i] = lumaOf(r[i]!, g[i]!, b[i]!);
  return out;
}
