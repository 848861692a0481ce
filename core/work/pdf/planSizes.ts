import type { CodedPage } from '../../imaging/layers/codedPage';

/*
 * How much of its sharpness each page of a file gives up so that all of them together are as large as a limit allows.
 * What a page will weigh is estimated from what it weighed in other codings, and between and beyond those from how pages of its
 * kind become smaller.
 */

/** A page's weight in the codings that were made of it, by how much of it was given up, rising; the first is of nothing. */
export interface SizedPage {
  /** null where it comes as it is. */
  readonly as: CodedPage['coding'] | null;
  readonly sizes: { readonly givenUp: number; readonly bytes: number }[];
}

/** Shares of their weight that pages have on average where 0, a quarter, half … is given up: nine simulated photos. */
const USUAL: Readonly<Record<CodedPage['coding'], readonly number[]>> = {
  layers: [1, 0.93, 0.86, 0.73, 0.65],
  jpeg: [1, 0.72, 0.58, 0.48, 0.38],
  jbig2: [1, 0.92, 0.75, 0.62, 0.52],
};
/** Of pages in layers, right behind the middle: their edges are hard from there on. */
const USUAL_HARD = 0.76;
const HALF = 0.5;

function usualAt(as: CodedPage['coding'], givenUp: number): number {
  const shares = USUAL[as];
  const at = Math.min(shares.length - 1, givenUp * (shares.length - 1));
  const i = Math.min(shares.length - 2, Math.floor(at));
  const from = as === 'layers' && givenUp > HALF && i === 2 ? USUAL_HARD : shares[i]!;
  return from + (shares[i + 1]! - from) * (at - i);
}

/** What a page will weigh, about. */
export function estimateBytes({ as, sizes }: SizedPage, givenUp: number): number {
  if (as === null) return sizes[0]!.bytes;
  const next = sizes.findIndex((each) => each.givenUp >= givenUp);
  const below = sizes[next === -1 ? sizes.length - 1 : Math.max(0, next - 1)]!;
  if (next === -1) return (below.bytes * usualAt(as, givenUp)) / usualAt(as, below.givenUp);
  const above = sizes[next]!;
  if (above.givenUp === givenUp) return above.bytes;
  const [from, to] = [usualAt(as, below.givenUp), usualAt(as, above.givenUp)];
  const t = from === to ? 0.5 : (from - usualAt(as, givenUp)) / (from - to);
  return below.bytes + (above.bytes - below.bytes) * Math.min(1, Math.max(0, t));
}

/** Where all pages having given up half are estimated to be too large by less than this factor, that is tried: soft edges are worth it. */
const NEARLY = 1.25;
/** Steps in which it is looked for how much is given up: finer ones do not show in a page's weight. */
const STEPS = 200;

/**
 * As little as will do: the largest pages first, all of those the same; and no page more than half of what it may before all have
 * given up half.
 * @param bytes - that all pages may have
 * @returns how much of each page is given up, 0 to 1; 1 for all that can where even that is too much
 */
export function planSizes(pages: readonly SizedPage[], bytes: number): number[] {
  const plan = pages.map(() => 0);
  for (const most of [HALF, 1]) {
    const weights = pages.map((page, i) => estimateBytes(page, plan[i]!));
    const largestFirst = pages
      .flatMap(({ as }, i) => (as === null ? [] : [i]))
      .sort((a, b) => weights[b]! - weights[a]!);
    let sum = weights.reduce((all, each) => all + each, 0);
    if (sum <= bytes) return plan;
    for (const [k, last] of largestFirst.entries()) {
      sum += estimateBytes(pages[last]!, most) - weights[last]!;
      if (sum > bytes) continue;
      const chosen = largestFirst.slice(0, k + 1);
      const spared = weights.reduce((all, each, i) => (chosen.includes(i) ? all : all + each), 0);
      const enough = (givenUp: number): boolean =>
        chosen.reduce((all, i) => all + estimateBytes(pages[i]!, givenUp), spared) <= bytes;
      const begun = most - HALF;
      let step = 1;
      while (step < STEPS && !enough(begun + (HALF * step) / STEPS)) step++;
      for (const i of chosen) plan[i] = begun + (HALF * step) / STEPS;
      return plan;
    }
    for (const i of largestFirst) plan[i] = most;
    const isKnown = largestFirst.every((i) => pages[i]!.sizes.some(({ givenUp }) => givenUp === most));
    if (sum <= NEARLY * bytes && !isKnown) return plan;
  }
  return plan;
}
