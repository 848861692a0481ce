/** A stream of numbers in [0, 1) that is the same for the same seed everywhere. */
export interface Random {
  next(): number;
  between(low: number, high: number): number;
  whole(low: number, high: number): number;
  pick<T>(items: readonly T[]): T;
  chance(probability: number): boolean;
  /** Mean 0, standard deviation 1 (Box & Muller 1958). */
  gauss(): number;
}

/** Mulberry32: small, fast, good enough for pictures. */
export function createRandom(seed: number): Random {
  let state = seed >>> 0;
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const between = (low: number, high: number): number => low + (high - low) * next();
  const whole = (low: number, high: number): number => Math.floor(between(low, high + 1));
  return {
    next,
    between,
    whole,
    pick: (items) => items[Math.floor(next() * items.length)]!,
    chance: (probability) => next() < probability,
    gauss: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
  };
}
