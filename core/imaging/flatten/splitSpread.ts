import { distance } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { invertHomography, applyHomography, homographyBetween } from '../geometry/homography';
import { wholePicture } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { flattenPage } from './flattenPage';

/*
 * Where an open book or notebook folds. The spread is laid flat small; near its middle the columns are averaged, and the
 * fold is where they dip: pages bend away from the light there. With no dip it is the middle.
 * Assumes the fold stands upright as the spread is read, or lies across when the spread is taller than wide.
 */

/** Long side of the flat spread that the fold is looked for on: its shadow is then a few px wide. */
const FLAT_LONG_SIDE_PX = 480;
/** The fold is looked for within this share of the spread's length on either side of its middle. */
const REACH_SHARE = 0.12;
/** A dip this deep (share of the paper's lightness) is surely the fold. */
const SURE_DIP = 0.06;

export interface SpreadHalves {
  /** Outlines in photo pixels, in reading order (for a fold that lies across, the upper one is left). */
  readonly left: Quad;
  readonly right: Quad;
  /** 0.6 where the middle was taken for want of a fold, up to 1. */
  readonly confidence: number;
}

/**
 * Cuts the outline of an open book along its fold, which is looked for as the dip of light near the middle.
 * @param spread - outline of both pages together, photo pixels
 */
export function splitSpread(photo: PixelImage, spread: Quad): SpreadHalves {
  const [tl, tr, br, bl] = spread;
  const across = distance(tl, tr) + distance(bl, br);
  const down = distance(tl, bl) + distance(tr, br);
  const upright = across >= down;
  const scale = FLAT_LONG_SIDE_PX / Math.max(across, down);
  const size = { width: Math.max(40, Math.round(across * scale)), height: Math.max(40, Math.round(down * scale)) };
  const flat = flattenPage(photo, { corners: spread, sheet: null }, size);
  const length = upright ? size.width : size.height;
  const profile = meanAlong(flat, upright);
  const smooth = profile.map(
    (_, i) => (profile[Math.max(0, i - 1)]! + profile[i]! + profile[Math.min(length - 1, i + 1)]!) / 3,
  );
  const middle = length / 2;
  const reach = Math.round(REACH_SHARE * length);
  let fold = Math.round(middle);
  let deepest = 0;
  for (let i = Math.round(middle) - reach; i <= middle + reach; i++) {
    const around = (smooth[Math.max(0, i - 14)]! + smooth[Math.min(length - 1, i + 14)]!) / 2;
    const dip = ((around - smooth[i]!) / Math.max(1, around)) * (1 - (0.4 * Math.abs(i - middle)) / reach);
    if (dip > deepest) {
      deepest = dip;
      fold = i;
    }
  }
  const at = deepest < 0.01 ? middle : fold + 0.5;
  const back = invertHomography(homographyBetween(spread, wholePicture(size.width, size.height)));
  const one = applyHomography(back, upright ? { x: at, y: 0 } : { x: size.width, y: at });
  const other = applyHomography(back, upright ? { x: at, y: size.height } : { x: 0, y: at });
  const confidence = 0.6 + 0.4 * Math.min(1, deepest / SURE_DIP);
  return upright
    ? { left: [tl, one, other, bl], right: [one, tr, br, other], confidence }
    : { left: [tl, tr, one, other], right: [other, one, br, bl], confidence };
}

/** Mean lightness of each column, or of each row. */
function meanAlong({ width, height, channels, data }: PixelImage, columns: boolean): Float32Array {
  const out = new Float32Array(columns ? width : height);
  const green = channels === 1 ? 0 : 1;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      out[columns ? x : y]! += data[(y * width + x) * channels + green]! / (columns ? height : width);
  return out;
}
