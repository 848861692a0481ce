import { createNormalEquations } from '../geometry/normalEquations';
import { tukeyWeight } from '../geometry/tukeyWeight';
import { quantile } from '../raster/quantile';

/** Rounds in which it is fitted without what stands out. */
const ROUNDS = 6;
/** Logarithms that differ by less than this from it belong to it, however even the rest is. */
const LEAST_SPREAD = 0.01;

/**
 * How light goes over a page, without what stands out of it: reflections, shadows.
 * Method: a surface of second degree through the logarithms, fitted robustly (Tukey's biweight, cut off at four median
 * distances).
 * @param values - above 0, across × down
 * @param known - 1 where a value is known, else 0
 * @returns the surface at every place
 */
export function smoothSurface(values: Float32Array, known: Uint8Array, across: number, down: number): Float32Array {
  const terms = (k: number): number[] => {
    const x = (2 * (k % across)) / across - 1;
    const y = (2 * Math.floor(k / across)) / down - 1;
    return [1, x, y, x * x, x * y, y * y];
  };
  const places = [...known.keys()].filter((k) => known[k] === 1);
  const middle = quantile(
    places.map((k) => values[k]!),
    0.5,
    1,
  );
  let surface = [Math.log(middle), 0, 0, 0, 0, 0];
  const at = (k: number): number => terms(k).reduce((sum, term, i) => sum + term * surface[i]!, 0);
  for (let round = 0; round < ROUNDS; round++) {
    const off = places.map((k) => Math.log(values[k]!) - at(k));
    const spread = Math.max(LEAST_SPREAD, 4 * quantile(off.map(Math.abs), 0.5, 0));
    const equations = createNormalEquations(6);
    places.forEach((k, i) => equations.add(terms(k), Math.log(values[k]!), tukeyWeight(off[i]! / spread)));
    surface = [...(equations.solve() ?? surface)];
  }
  return Float32Array.from(values, (_, k) => Math.exp(at(k)));
}
