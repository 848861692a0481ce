import { LEAST_NOISE } from '../light/paperField';
import type { PageLight } from './pageLight';
import { sizeBesideFile } from './smallCopy';

/** The paper's noise, as a share of its lightness, up to which strokes can be sharpened wholly. */
const CALM_TO = 0.006;
/** And from which on not at all: sharpening would bring out the grain. */
const NOISY_FROM = 0.011;
/**
 * A smaller copy is calmer: what its noise has over the least that is told grows with the page's size to this power. Measured
 * on simulated pages in dim light, 0.0076 at 1700 px, 0.0058 at 1000, 0.0050 at 700.
 */
const NOISE_WITH_SIZE = 1.3;

/**
 * How far strokes may be sharpened without raising the noise of dim light along with them: 1 wholly, 0 not at all. A copy is
 * treated as the file's page is.
 */
export function sharpeningGain(light: Pick<PageLight, 'page' | 'detail' | 'field'>): number {
  const { noise } = light.field;
  let sum = 0;
  for (let i = 0; i < noise.length; i++) sum += noise[i]!;
  const mean = sum / noise.length;
  const inFile = LEAST_NOISE + (mean - LEAST_NOISE) / sizeBesideFile(light) ** NOISE_WITH_SIZE;
  return Math.min(1, Math.max(0, (NOISY_FROM - inFile) / (NOISY_FROM - CALM_TO)));
}
