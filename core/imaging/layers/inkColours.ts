import type { PixelImage } from '../raster/pixelImage';

export type Rgb = readonly [number, number, number];

/** Most inks a page is taken apart into; each is a mask of its own. */
const MOST_INKS = 6;
/** Inks nearer than this in RGB are one. */
const SAME_INK = 44;
/** Inks that have moved nearer to each other than this are one, too. */
const SETTLED_APART = 25;
/** An ink covers at least this share of all that is written: a few red crosses on a page of blue are meant. */
const LEAST_SHARE = 0.0006;
/** Rounds of moving inks to the mean of what is nearest to them; most settle after four. */
const ROUNDS = 8;

/**
 * The colour at the heart of the stroke each ink pixel belongs to: that of the deepest pixel within two of it.
 * @param page - RGB, RGBA or grey
 * @param depth - of every pixel of the page, row by row, 0 (white) to 255
 * @param full - the same of the stroke that the pixel belongs to: the search ends at a pixel that is as deep
 * @param ink - indices of pixels that are ink
 * @returns three bytes a pixel, in the order of ink
 */
export function strokeColours(
  { width, channels, data }: PixelImage,
  { depth, full }: { readonly depth: Uint8ClampedArray; readonly full: Uint8ClampedArray },
  ink: Uint32Array,
): Uint8Array {
  const colours = new Uint8Array(3 * ink.length);
  for (let k = 0; k < ink.length; k++) {
    const i = ink[k]!;
    const from = (depth[i] === full[i] ? i : deepestNear(depth, full[i]!, i, width)) * channels;
    colours[3 * k] = data[from]!;
    colours[3 * k + 1] = data[channels === 1 ? from : from + 1]!;
    colours[3 * k + 2] = data[channels === 1 ? from : from + 2]!;
  }
  return colours;
}

/** The deepest pixel within two of one; among equals itself, or else the first. The search ends at a pixel as deep as `full`. */
function deepestNear(depth: Uint8ClampedArray, full: number, i: number, width: number): number {
  const x = i % width;
  const left = Math.min(2, x);
  const across = left + Math.min(2, width - 1 - x);
  const last = Math.min(depth.length - 1, i + 2 * width);
  let deepest = i;
  let most = depth[i]!;
  for (let row = Math.max(x, i - 2 * width); row <= last; row += width) {
    for (let at = row - left, end = at + across; at <= end; at++) {
      const own = depth[at]!;
      if (own <= most) continue;
      if (own === full) return at;
      most = own;
      deepest = at;
    }
  }
  return deepest;
}

/**
 * The few inks a page is written in.
 * Method: k-means over a coarse histogram, begun at the commonest colour and then each time at the colour served worst.
 * @param colours - three bytes a pixel
 */
export function findInks(colours: Uint8Array): readonly Rgb[] {
  const cells = histogram(colours);
  const all = cells.reduce((sum, cell) => sum + cell.count, 0);
  if (all === 0) return [];
  let inks: Rgb[] = [cells.reduce((a, b) => (b.count > a.count ? b : a)).rgb];
  while (inks.length < MOST_INKS) {
    const worst = cells.reduce((a, b) => (miss(b, inks) > miss(a, inks) ? b : a));
    if (distance(worst.rgb, nearestOf(worst.rgb, inks)) < SAME_INK) break;
    inks = settle(cells, [...inks, worst.rgb]);
  }
  const counts = shares(cells, inks);
  const kept = inks.filter((_, i) => counts[i]! >= LEAST_SHARE * all);
  return kept.length > 0 ? settle(cells, apart(settle(cells, kept), cells)) : inks.slice(0, 1);
}

/** Without inks that have moved as near to a commoner one as makes them the same. */
function apart(inks: readonly Rgb[], cells: readonly Cell[]): Rgb[] {
  const counts = shares(cells, inks);
  const commonestFirst = inks.map((_, i) => i).sort((a, b) => counts[b]! - counts[a]!);
  const left: Rgb[] = [];
  for (const i of commonestFirst)
    if (left.every((other) => distance(inks[i]!, other) >= SETTLED_APART)) left.push(inks[i]!);
  return left;
}

interface Cell {
  readonly rgb: Rgb;
  readonly count: number;
}

const miss = ({ rgb, count }: Cell, inks: readonly Rgb[]): number => {
  const away = distance(rgb, nearestOf(rgb, inks));
  // by the root of how much there is, so that a little of a very different ink outweighs much of a slightly different one
  return away < SAME_INK ? 0 : away * away * Math.sqrt(count);
};
const distance = (a: Rgb, b: Rgb): number => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2);

/** Which ink is nearest to a colour. */
export function nearestInk(r: number, g: number, b: number, inks: readonly Rgb[]): number {
  let best = 0;
  let least = Infinity;
  for (let i = 0; i < inks.length; i++) {
    const ink = inks[i]!;
    const away = (r - ink[0]) ** 2 + (g - ink[1]) ** 2 + (b - ink[2]) ** 2;
    if (away < least) {
      least = away;
      best = i;
    }
  }
  return best;
}

/**
 * The same for many colours.
 * @param colours - three bytes each
 * @returns a place in inks for each
 */
export function nearestInks(colours: Uint8Array, inks: readonly Rgb[]): Uint8Array {
  const nearest = new Uint8Array(colours.length / 3);
  for (let k = 0, at = 0; k < nearest.length; k++, at += 3) {
    const r = colours[at]!;
    const g = colours[at + 1]!;
    const b = colours[at + 2]!;
    // pixels of one stroke mostly have one colour
    if (k > 0 && r === colours[at - 3] && g === colours[at - 2] && b === colours[at - 1]) {
      nearest[k] = nearest[k - 1]!;
      continue;
    }
    nearest[k] = nearestInk(r, g, b, inks);
  }
  return nearest;
}
const nearestOf = (rgb: Rgb, inks: readonly Rgb[]): Rgb => inks[nearestInk(...rgb, inks)]!;

/** Means of 8 × 8 × 8 levels, with how many pixels each holds. */
function histogram(colours: Uint8Array): Cell[] {
  const sums = new Map<number, [number, number, number, number]>();
  for (let at = 0; at < colours.length; at += 3) {
    const key = ((colours[at]! >> 3) << 10) | ((colours[at + 1]! >> 3) << 5) | (colours[at + 2]! >> 3);
    let sum = sums.get(key);
    if (sum === undefined) sums.set(key, (sum = [0, 0, 0, 0]));
    sum[0] += colours[at]!;
    sum[1] += colours[at + 1]!;
    sum[2] += colours[at + 2]!;
    sum[3]++;
  }
  return [...sums.values()].map(([r, g, b, count]) => ({ rgb: [r / count, g / count, b / count] as Rgb, count }));
}

function settle(cells: readonly Cell[], start: readonly Rgb[]): Rgb[] {
  let inks = [...start];
  for (let round = 0; round < ROUNDS; round++) {
    const sums = inks.map(() => [0, 0, 0, 0]);
    for (const { rgb, count } of cells) {
      const sum = sums[nearestInk(rgb[0], rgb[1], rgb[2], inks)]!;
      for (let c = 0; c < 3; c++) sum[c]! += rgb[c]! * count;
      sum[3]! += count;
    }
    inks = inks.map((ink, i) =>
      sums[i]![3]! > 0
        ? ([sums[i]![0]! / sums[i]![3]!, sums[i]![1]! / sums[i]![3]!, sums[i]![2]! / sums[i]![3]!] as Rgb)
        : ink,
    );
  }
  return inks;
}

function shares(cells: readonly Cell[], inks: readonly Rgb[]): number[] {
  const counts = inks.map(() => 0);
  for (const { rgb, count } of cells) counts[nearestInk(...rgb, inks)]! += count;
  return counts;
}
