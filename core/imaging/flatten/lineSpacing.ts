import { quantile } from '../raster/quantile';

/*
 * Rulings, squares and lines of print stand at one distance from each other. Where lines were chosen from more of them, or some were
 * not found, their distances are whole multiples of it; a heading or a paragraph breaks the row, and another begins behind it.
 */

/** A line's place in a row of evenly spaced ones. */
export interface Rank {
  /** Lines of different rows are at no known distance. */
  readonly row: number;
  readonly number: number;
}

/** How far from a whole multiple a distance may be, as a share of the pitch: what a sheet that is not yet flat makes of it. */
const WITHIN = 0.12;
/** Share of the distances that must be such multiples. By chance a quarter are. */
const MOSTLY = 0.75;
/** Fewer lines have no pitch. */
const LEAST_LINES = 8;
/** The pitch is at least this share of the middle distance: smaller ones divide anything. */
const LEAST_SHARE = 0.4;
/** Half of a distance that occurs is the pitch only where so many more distances say so: it divides nearly anything. */
const HALF_COSTS = 1.5;
/** A distance is at most so many times the pitch. */
const MOST_TIMES = 4;

/**
 * Finds in which rows lines stand evenly.
 * @param places - across the lines, in any unit and order
 * @returns a rank for each place; null where they do not stand evenly
 */
export function rankLines(places: readonly number[]): readonly Rank[] | null {
  if (places.length < LEAST_LINES) return null;
  const order = places.map((_, k) => k).sort((p, q) => places[p]! - places[q]!);
  const gaps = order.slice(1).map((k, i) => places[k]! - places[order[i]!]!);
  const least = LEAST_SHARE * quantile(gaps, 0.5);
  const timesOf = (gap: number, pitch: number): number => {
    const times = Math.round(gap / pitch);
    return times >= 1 && times <= MOST_TIMES && Math.abs(gap / pitch - times) < WITHIN ? times : 0;
  };
  let pitch = 0;
  let most = MOSTLY * gaps.length;
  for (const gap of gaps)
    for (const divisor of [1, 2]) {
      const tried = gap / divisor;
      if (tried < least) continue;
      const even = gaps.filter((each) => timesOf(each, tried) > 0).length - (divisor - 1) * HALF_COSTS;
      // of pitches that explain as much the larger says more
      if (even > most || (even === most && tried > pitch)) [most, pitch] = [even, tried];
    }
  if (pitch === 0) return null;
  const ranks: Rank[] = [];
  let [row, number] = [0, 0];
  order.forEach((k, i) => {
    if (i > 0) {
      const times = timesOf(gaps[i - 1]!, pitch);
      if (times === 0) row++;
      number = times === 0 ? 0 : number + times;
    }
    ranks[k] = { row, number };
  });
  return ranks;
}

/** How far each place is from where an even pitch, the same in all rows, would put it; in the unit of the places. */
export function offPitch(places: readonly number[], ranks: readonly Rank[]): number[] {
  const rows = new Map<number, { n: number; place: number; count: number }>();
  ranks.forEach(({ row, number }, k) => {
    const sums = rows.get(row) ?? { n: 0, place: 0, count: 0 };
    sums.n += number;
    sums.place += places[k]!;
    sums.count++;
    rows.set(row, sums);
  });
  const centred = ranks.map(({ row, number }, k) => {
    const { n, place, count } = rows.get(row)!;
    return { n: number - n / count, place: places[k]! - place / count };
  });
  const [nn, np] = centred.reduce(([p, q], { n, place }) => [p + n * n, q + n * place], [0, 0]);
  const pitch = nn === 0 ? 0 : np / nn;
  return centred.map(({ n, place }) => place - pitch * n);
}
