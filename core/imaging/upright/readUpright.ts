import { withWorkspace } from '../kernels/workspace';
import { convolve, createNetwork, meanOf, pointwise, separable, type Tensor } from '../network/convolution';
import { boxBlur } from '../raster/boxBlur';
import { extremeFilter } from '../raster/morphology';
import type { PixelImage } from '../raster/pixelImage';
import { fitLongSide } from '../raster/resizeByArea';
import { lightnessPlane, type Plane } from '../raster/plane';
import { UPRIGHT_NETWORK_WEIGHTS } from './uprightNetworkWeights';
import { quantile } from '../raster/quantile';

/*
 * Which way up a flat page is, from the writing on it.
 * Method: a small convolutional network (the same kind as the page network's encoder) that has read writing in many hands
 * and typefaces turned all four ways votes on one place of the page after another, those with the most ink first, until the
 * answer is plain; their votes are added as logarithms. How the photo was held speaks too, for as much as it is worth: phones know, mostly.
 * Limits: a page without writing says nothing; Latin letters and digits only.
 */

export type QuarterTurns = 0 | 1 | 2 | 3;

export interface UprightReading {
  /** Clockwise quarter turns that would set the page right. */
  readonly quarterTurns: QuarterTurns;
  /** Chance that this is right, 0 to 1; null where nothing on the page says. */
  readonly confidence: number | null;
}

/** A4 at this size has letters of about the height the network learnt. */
const PAGE_LONG_SIDE_PX = 1000;
/** Side of the crops that the network reads, px. */
export const CROP_PX = 160;
/** A page of drawings has its few words where there is little ink: all of it is read before giving up. */
const MOST_CROPS = 24;
/** With this many read, */
const LEAST_CROPS = 5;
/** a chance this good ends the reading. */
const PLAIN_FROM = 0.998;
/** Ink that a crop must have to be asked, as a share of its pixels. */
const LEAST_INK = 0.012;
/** Chance that a photo as held shows the page the right way up, before anything is read. */
const HELD_RIGHT = 0.5;
/** A crop that hardly prefers one turn, as a crop of hatching does, has no say: many such would add up to a wrong certainty. */
const LEAST_MARGIN = 0.5;
/** The votes of crops of one page are not independent: each counts for this much. */
const VOTE_WEIGHT = 0.9;

/**
 * Reads which way up a page is.
 * @param page - the flat page, RGB or grey, best 1000 px long or more (smaller writing is not recognised)
 */
export function readUpright(page: PixelImage): UprightReading {
  const plane = lightnessPlane(fitLongSide(page, PAGE_LONG_SIDE_PX));
  const votes = [Math.log(HELD_RIGHT), ...[1, 2, 3].map(() => Math.log((1 - HELD_RIGHT) / 3))];
  const places = inkiestPlaces(plane);
  if (places.length === 0) return { quarterTurns: 0, confidence: null };
  let best: QuarterTurns = 0;
  let confidence = HELD_RIGHT;
  for (const [read, { x, y }] of places.entries()) {
    if (read >= LEAST_CROPS && confidence > PLAIN_FROM) break;
    const logits = voteFourWays(evenInk(plane.data, plane.width, x, y));
    const [first, second] = [...logits].sort((p, q) => q - p);
    if (first! - second! < LEAST_MARGIN) continue;
    logits.forEach((logit, turns) => (votes[turns]! += VOTE_WEIGHT * logit));
    const top = Math.max(...votes);
    best = votes.indexOf(top) as QuarterTurns;
    confidence = 1 / votes.reduce((sum, v) => sum + Math.exp(v - top), 0);
  }
  // the network sees the page turned clockwise by `best`: turning on to four sets it right
  return { quarterTurns: ((4 - best) % 4) as QuarterTurns, confidence };
}

/** Top left corners of the places with the most ink, apart from each other; fewer where the page has fewer. */
function inkiestPlaces({ width, height, data }: Plane): { x: number; y: number }[] {
  const places: { x: number; y: number; ink: number }[] = [];
  for (let y = 0; y + CROP_PX <= height; y += CROP_PX / 2) {
    for (let x = 0; x + CROP_PX <= width; x += CROP_PX / 2) {
      const ink = edgeShare(data, width, x, y);
      if (ink > LEAST_INK) places.push({ x, y, ink });
    }
  }
  places.sort((p, q) => q.ink - p.ink);
  const chosen: typeof places = [];
  for (const place of places) {
    if (chosen.length === MOST_CROPS) break;
    if (chosen.every((c) => Math.abs(c.x - place.x) >= CROP_PX || Math.abs(c.y - place.y) >= CROP_PX))
      chosen.push(place);
  }
  return chosen;
}

/** Share of a crop's pixels at which the page steps: writing is mostly edges, a solid picture is not. */
function edgeShare(data: Float32Array, width: number, x0: number, y0: number): number {
  let steep = 0;
  let count = 0;
  for (let y = y0 + 1; y < y0 + CROP_PX - 1; y += 2) {
    for (let x = x0 + 1; x < x0 + CROP_PX - 1; x += 2) {
      const i = y * width + x;
      count++;
      if (Math.abs(data[i + 1]! - data[i - 1]!) + Math.abs(data[i + width]! - data[i - width]!) > 22) steep++;
    }
  }
  return steep / count;
}

/** Half the square that closes ink when the paper's light is read, px; as in training. */
const DILATE_PX = 4;
/** Half the square that smooths it, px; as in training. */
const BLUR_PX = 15;

/** Paper to 0 and ink towards 1, whatever the light; the same steps as in training. */
function evenInk(data: Float32Array, width: number, x0: number, y0: number): Float32Array {
  const n = CROP_PX;
  const crop = new Float32Array(n * n);
  for (let y = 0; y < n; y++) crop.set(data.subarray((y0 + y) * width + x0, (y0 + y) * width + x0 + n), y * n);
  const field = boxBlur(extremeFilter(crop, n, n, { extreme: 'largest', radius: DILATE_PX }), n, n, {
    radius: BLUR_PX,
  });
  const ink = crop;
  for (let i = 0; i < ink.length; i++) ink[i] = Math.min(1, Math.max(0, 1 - crop[i]! / Math.max(20, field[i]!)));
  const most = Math.max(0.15, quantile(ink, 0.97));
  for (let i = 0; i < ink.length; i++) ink[i] = Math.min(1.5, ink[i]! / most);
  return ink;
}

const openNetwork = createNetwork(UPRIGHT_NETWORK_WEIGHTS);

/** The mean vote on a crop and on the same crop turned, each counted for the turn it then speaks of: what favours one turn falls out. */
function voteFourWays(crop: Float32Array): number[] {
  const sums = [0, 0, 0, 0];
  let turned = crop;
  for (let turns = 0; turns < 4; turns++) {
    if (turns > 0) turned = turnCrop(turned);
    voteOnCrop(turned).forEach((logit, k) => (sums[(k + 4 - turns) % 4]! += logit / 4));
  }
  return sums;
}

/** A quarter turn clockwise. */
function turnCrop(crop: Float32Array): Float32Array {
  const n = CROP_PX;
  const out = new Float32Array(n * n);
  for (let y = 0; y < n; y++) for (let x = 0; x < n; x++) out[x * n + n - 1 - y] = crop[y * n + x]!;
  return out;
}

/**
 * Logits of the four turns for one crop.
 * @param crop - CROP_PX × CROP_PX, paper 0 and ink towards 1
 */
export function voteOnCrop(crop: Float32Array): readonly number[] {
  return withWorkspace((ws) => {
    const network = openNetwork(ws);
    const block = (input: Tensor, name: string, stride: 1 | 2 = 1): Tensor =>
      separable(input, network.layer(`${name}_d`), network.layer(`${name}_p`), stride);
    const a = convolve(network.input(1, CROP_PX, CROP_PX, crop), network.layer('stem_c'), 2);
    const b = block(block(a, 'b1', 2), 'b2');
    const c = block(block(b, 'c1', 2), 'c2');
    const d = block(block(block(c, 'd1', 2), 'd2'), 'd3');
    return Array.from(meanOf(pointwise(d, network.layer('head_h'), false)).samples.copy());
  });
}
