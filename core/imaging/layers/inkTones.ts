import { HARD_SHARE, RIM_SHARE, type PageStrokes, type Tones } from './findStrokes';
import type { Rgb } from './inkColours';
import type { PaintedPixels } from './inkMasks';

/*
 * How many masks a page's inks take, and which of them each pixel is in. A pen leaves thick strokes and thin ones, a lens gives
 * both pale rims: all of that is one ink in a few depths. Inks that differ in depth only are therefore painted in the same tones.
 */

/**
 * Inks whose colours lie in directions from white that are nearer than this, degrees, differ in depth only. Thick and thin strokes of
 * one pen are 2 apart; navy and black are 4, and must not become one: black would turn blue.
 */
const SAME_DIRECTION_DEG = 3;
/** The share of an ink's pixels that may be deeper than where its tones are looked for: a few blots do not move them. */
const DEEPEST_SHARE = 0.1;
/** Rounds in which tones move to the mean of what they paint; few move after eight. */
const ROUNDS = 12;

/** In one tone an ink: edges are hard. */
export function inOneTone({ depth, full, inks, pale, pixels, own }: PageStrokes): PaintedPixels {
  const inkPixels = new Uint32Array(pixels.length);
  const paintedIn = new Uint32Array(pixels.length);
  const order = palestFirst(inks.map((_, ink) => (pale[ink] === true ? 0 : 1)));
  let count = 0;
  for (let k = 0; k < pixels.length; k++) {
    const i = pixels[k]!;
    if (pale[own[k]!] !== true && depth[i]! < HARD_SHARE * full[i]!) continue;
    inkPixels[count] = i;
    paintedIn[count++] = 1 << order[own[k]!]!;
  }
  return { inkPixels: inkPixels.subarray(0, count), paintedIn: paintedIn.subarray(0, count) };
}

/** In several tones a family of inks, each over the paler ones; pale inks in one. */
export function inTones(strokes: PageStrokes, tones: Exclude<Tones, 1>): PaintedPixels {
  const { depth, pale, pixels, own } = strokes;
  const family = inkFamilies(strokes);
  const families = Math.max(-1, ...family) + 1;
  const isPale = Array.from({ length: families }, (_, f) => pale[family.indexOf(f)] === true);
  const histograms = depthsOf(strokes, family, families);
  const from = isPale.map((one, f) => (one ? [0] : tonesFrom(histograms.subarray(256 * f, 256 * (f + 1)), tones)));
  // all first tones, then all second ones: whatever is darker lies over what is paler
  const order = palestFirst(from.flatMap((steps, f) => steps.map((_, tone) => (isPale[f] === true ? 0 : tone + 1))));
  const first = from.map((_, f) => from.slice(0, f).reduce((sum, steps) => sum + steps.length, 0));
  const inkPixels = new Uint32Array(pixels.length);
  const paintedIn = new Uint32Array(pixels.length);
  let count = 0;
  for (let k = 0; k < pixels.length; k++) {
    const f = family[own[k]!]!;
    const steps = from[f]!;
    const deep = depth[pixels[k]!]!;
    let masks = 0;
    for (let tone = 0; tone < steps.length && deep >= steps[tone]!; tone++) masks |= 1 << order[first[f]! + tone]!;
    if (masks === 0) continue;
    inkPixels[count] = pixels[k]!;
    paintedIn[count++] = masks;
  }
  return { inkPixels: inkPixels.subarray(0, count), paintedIn: paintedIn.subarray(0, count) };
}

/** The place of each of some masks when they are painted by how dark they are, in the order they have among equals. */
function palestFirst(darkness: readonly number[]): number[] {
  const places = new Array<number>(darkness.length);
  darkness
    .map((_, mask) => mask)
    .sort((a, b) => darkness[a]! - darkness[b]! || a - b)
    .forEach((mask, place) => (places[mask] = place));
  return places;
}

/**
 * For each ink, which family it is of, from 0; the commonest ink of one says what direction it has. A pale ink is one of its own, and
 * so is that of a filled box.
 */
function inkFamilies({ inks, pale, boxInks, own }: PageStrokes): number[] {
  const counts = inks.map(() => 0);
  for (const ink of own) counts[ink]!++;
  const directions = inks.map(directionOf);
  const isAlone = (ink: number): boolean => pale[ink] === true || ink >= inks.length - boxInks;
  const firsts: number[] = [];
  const family = inks.map(() => -1);
  for (const ink of inks.map((_, i) => i).sort((a, b) => counts[b]! - counts[a]!)) {
    const apart = firsts.map((other) =>
      isAlone(ink) || isAlone(other) ? Infinity : degreesBetween(directions[ink]!, directions[other]!),
    );
    const nearest = apart.indexOf(Math.min(...apart));
    if (nearest !== -1 && apart[nearest]! < SAME_DIRECTION_DEG) family[ink] = nearest;
    else family[ink] = firsts.push(ink) - 1;
  }
  return family;
}

/** From white towards a colour, of length 1. */
function directionOf([r, g, b]: Rgb): Rgb {
  const length = Math.hypot(255 - r, 255 - g, 255 - b) || 1;
  return [(255 - r) / length, (255 - g) / length, (255 - b) / length];
}
const degreesBetween = (a: Rgb, b: Rgb): number =>
  (Math.acos(Math.min(1, a[0] * b[0] + a[1] * b[1] + a[2] * b[2])) * 180) / Math.PI;

/** How many pixels of each family are so deep, rims left out: 256 numbers a family. */
function depthsOf({ depth, full, pixels, own }: PageStrokes, family: readonly number[], families: number): Uint32Array {
  const counts = new Uint32Array(256 * families);
  for (let k = 0; k < pixels.length; k++) {
    const i = pixels[k]!;
    const deep = depth[i]!;
    if (deep >= RIM_SHARE * full[i]!) counts[256 * family[own[k]!]! + deep]!++;
  }
  return counts;
}

/**
 * The depths at which tones begin so that what is painted differs least from the page.
 * Method: Lloyd's, on a histogram, with white as one more tone.
 * @param histogram - how many pixels are so deep, 0 to 255
 * @returns as many as tones, rising
 */
function tonesFrom(histogram: Uint32Array, tones: number): number[] {
  const all = histogram.reduce((sum, count) => sum + count, 0);
  let deepest = 255;
  for (let above = histogram[255]!; deepest > 1 && above < DEEPEST_SHARE * all; above += histogram[deepest]!) deepest--;
  let levels = Array.from({ length: tones }, (_, tone) => (0.9 * deepest * (tone + 1)) / tones);
  for (let round = 0; round < ROUNDS; round++) {
    const steps = between(levels);
    levels = levels.map((level, tone) => {
      let [sum, count] = [0, 0];
      for (let deep = Math.ceil(steps[tone]!); deep < Math.min(256, steps[tone + 1] ?? 256); deep++) {
        sum += deep * histogram[deep]!;
        count += histogram[deep]!;
      }
      return count === 0 ? level : sum / count;
    });
  }
  return between(levels);
}

/** Halfway between each level and the one before it; the first comes after white. */
const between = (levels: readonly number[]): number[] =>
  levels.map((level, tone) => (level + (levels[tone - 1] ?? 0)) / 2);
