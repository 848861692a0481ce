import type { Chance } from './chance';

/** Smooth noise: values on a lattice, eased between. */
export function smoothNoise(chance: Chance, cells: number): (x: number, y: number) => number {
  const lattice = Float32Array.from({ length: (cells + 2) ** 2 }, () => chance.from(-1, 1));
  return (x, y) => {
    const [u, v] = [Math.min(cells, Math.max(0, x * cells)), Math.min(cells, Math.max(0, y * cells))];
    const [i, j] = [Math.floor(u), Math.floor(v)];
    const ease = (t: number): number => t * t * (3 - 2 * t);
    const [a, b] = [ease(u - i), ease(v - j)];
    const at = (p: number, q: number): number => lattice[q * (cells + 2) + p]!;
    return (at(i, j) * (1 - a) + at(i + 1, j) * a) * (1 - b) + (at(i, j + 1) * (1 - a) + at(i + 1, j + 1) * a) * b;
  };
}
