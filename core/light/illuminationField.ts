import { closePlane } from '../raster/morphology';
import { fitLongSide } from '../raster/resizeByArea';
import type { PixelImage } from '../raster/pixelImage';

/*
 * How much light, and of which colour, the bare paper would send back at every place of the page.
 * 1. On a small copy each channel is closed (morphology) with a square wider than any stroke: ink vanishes, shadow edges
 *    stay where they are.
 * 2. Things that are dark or coloured and wider than that (a printed banner, a filled box, a picture) would pass for
 *    shadow. They are told apart by depth (no shadow takes more than about nine tenths of the light, on the 8-bit
 scale more than six tenths of the value) and by colour (a shadow keeps the paper's), and filled in from around them.
 * 3. A light blur takes out what paper grain is left.
 * Fails on pages that are mostly dark (photographs to the edge): then there is no paper to learn from.
 */

/** Size of the copy on which the field is estimated; the same for preview and final, so both get the same field. */
const FIELD_LONG_SIDE_PX = 480;
const STROKE_RADIUS_PX = 6;
const ENVELOPE_RADIUS_PX = 110;
/** Below this share of the brightest paper nearby a dark place is a thing, not a shadow (8-bit values, not light). */
const DARKEST_SHADOW = 0.38;
/** Colour difference from the paper around it, as a share of brightness, that no shadow makes. */
const COLOUR_OF_THINGS = 0.11;

export interface IlluminationField {
  readonly width: number;
  readonly height: number;
  /** One plane a channel (1 or 3), 8-bit scale, never under 1. */
  readonly planes: readonly Float32Array[];
}

/**
 * Estimates the illumination field of a flat page.
 * @param page - flattened page, grey or RGB
 * @returns a field at most 480 px long, covering the whole page
 */
export function estimateIlluminationField(page: PixelImage): IlluminationField {
  const small = fitLongSide(page, FIELD_LONG_SIDE_PX);
  const { width, height, channels, data } = small;
  const colours = channels === 1 ? 1 : 3;
  const closed = Array.from({ length: colours }, (_, c) => {
    const plane = new Float32Array(width * height);
    for (let i = 0; i < plane.length; i++) plane[i] = data[i * channels + c]!;
    return closePlane(plane, width, height, STROKE_RADIUS_PX);
  });
  const things = findThings(closed, width, height);
  const planes = closed.map((plane) => {
    const filled = fillMasked(plane, things, width, height);
    const smooth = blurTwice(filled, width, height, 2);
    return smooth.map((v) => Math.max(1, v));
  });
  return { width, height, planes };
}

/** 1 where the closed picture shows a thing and not paper. */
function findThings(closed: readonly Float32Array[], width: number, height: number): Uint8Array {
  const lightness = closed.length === 1 ? closed[0]! : closed[0]!.map((r, i) => (r + closed[1]![i]! + closed[2]![i]!) / 3);
  const envelope = closePlane(lightness, width, height, ENVELOPE_RADIUS_PX);
  const paper = medianColour(closed, lightness, envelope);
  const out = new Uint8Array(width * height);
  for (let i = 0; i < out.length; i++) {
    const l = lightness[i]!;
    if (l < DARKEST_SHADOW * envelope[i]!) out[i] = 1;
    else if (closed.length === 3) {
      const off = Math.hypot(closed[0]![i]! / (l + 1) - paper[0]!, closed[1]![i]! / (l + 1) - paper[1]!, closed[2]![i]! / (l + 1) - paper[2]!);
      if (off > COLOUR_OF_THINGS && l < 0.93 * envelope[i]!) out[i] = 1;
    }
  }
  return closePlane(Float32Array.from(out), width, height, 2).some((v) => v > 0) ? grow(out, width, height) : out;
}

/** A thing's blurred rim is neither thing nor paper. */
function grow(mask: Uint8Array, width: number, height: number): Uint8Array {
  const out = mask.slice();
  const reach = STROKE_RADIUS_PX / 2;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      if (mask[y * width + x] === 0) continue;
      for (let dy = -reach; dy <= reach; dy++) {
        for (let dx = -reach; dx <= reach; dx++) {
          const xx = x + dx;
          const yy = y + dy;
          if (xx >= 0 && yy >= 0 && xx < width && yy < height) out[yy * width + xx] = 1;
        }
      }
    }
  }
  return out;
}

/** The paper's colour as channel over mean, from the brighter half of the page. */
function medianColour(closed: readonly Float32Array[], lightness: Float32Array, envelope: Float32Array): number[] {
  const bright: number[] = [];
  for (let i = 0; i < lightness.length; i += 7) if (lightness[i]! > 0.75 * envelope[i]!) bright.push(i);
  return closed.map((plane) => {
    const shares = bright.map((i) => plane[i]! / (lightness[i]! + 1)).sort((a, b) => a - b);
    return shares[shares.length >> 1] ?? 1;
  });
}

/** Fills masked places from around them: means over ever larger blocks, the smallest block with paper in it wins (push–pull). */
function fillMasked(plane: Float32Array, mask: Uint8Array, width: number, height: number): Float32Array {
  const known = Float32Array.from(mask, (m) => (m === 0 ? 1 : 0));
  return pushPull(plane.map((v, i) => v * known[i]!), known, width, height);
}

function pushPull(sum: Float32Array, weight: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(sum.length);
  if (width === 1 && height === 1) {
    out[0] = weight[0]! > 0 ? sum[0]! / weight[0]! : 255;
    return out;
  }
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const halfSum = new Float32Array(w * h);
  const halfWeight = new Float32Array(w * h);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const to = (y >> 1) * w + (x >> 1);
      halfSum[to]! += sum[y * width + x]!;
      halfWeight[to]! += weight[y * width + x]!;
    }
  }
  for (let i = 0; i < halfSum.length; i++) {
    if (halfWeight[i]! > 1) {
      halfSum[i]! /= halfWeight[i]!;
      halfWeight[i] = 1;
    }
  }
  const coarse = pushPull(halfSum, halfWeight, w, h);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const k = Math.min(1, weight[i]!);
      const below = k >= 1 ? 0 : readField(coarse, w, h, (x + 0.5) / width, (y + 0.5) / height);
      out[i] = (k > 0 ? (sum[i]! / weight[i]!) * k : 0) + below * (1 - k);
    }
  }
  return out;
}

/** Bilinear look-up; u and v run from 0 to 1 over the field. */
function readField(plane: Float32Array, width: number, height: number, u: number, v: number): number {
  const x = Math.min(width - 1, Math.max(0, u * width - 0.5));
  const y = Math.min(height - 1, Math.max(0, v * height - 0.5));
  const xi = x | 0;
  const yi = y | 0;
  const x1 = Math.min(width - 1, xi + 1);
  const y1 = Math.min(height - 1, yi + 1);
  const fx = x - xi;
  const fy = y - yi;
  return (plane[yi * width + xi]! * (1 - fx) + plane[yi * width + x1]! * fx) * (1 - fy) + (plane[y1 * width + xi]! * (1 - fx) + plane[y1 * width + x1]! * fx) * fy;
}

function blurTwice(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  let from = plane;
  for (let pass = 0; pass < 2; pass++) {
    const to = new Float32Array(plane.length);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        let sum = 0;
        let n = 0;
        const [dx, dy] = pass === 0 ? [1, 0] : [0, 1];
        for (let k = -radius; k <= radius; k++) {
          const xx = x + dx * k;
          const yy = y + dy * k;
          if (xx < 0 || yy < 0 || xx >= width || yy >= height) continue;
          sum += from[yy * width + xx]!;
          n++;
        }
        to[y * width + x] = sum / n;
      }
    }
    from = to;
  }
  return from;
}
