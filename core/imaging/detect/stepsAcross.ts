import type { Point } from '../geometry/point';
import { CHANNELS, colourArena, type ColourPicture } from './colourPicture';
import { sideKernels } from './sideKernels';

/** How strong a step is at each whole px across a side, from -reach to reach, in levels; the sign of `towards` says whether it gets paler inwards. */
export interface StepsAcross {
  readonly response: Float32Array;
  readonly towards: Float32Array;
}

/** How far to either side of a place a step is correlated, px. */
const STEP_HALF = 3;

/**
 * Correlates the profile through p along the normal with a step.
 * @param picture - in pixels of its own; so is p
 * @param reach - how far to either side, whole px
 * @returns void when it is called again
 */
export function stepsAcross(
  { width, height, at }: ColourPicture,
  p: Point,
  nx: number,
  ny: number,
  reach: number,
): StepsAcross {
  const { buffer, reserve, releaseFrom } = colourArena();
  const places = 2 * reach + 1;
  const profileAt = reserve(4 * CHANNELS * (places + 2 * STEP_HALF));
  const responseAt = reserve(4 * places);
  const towardsAt = reserve(4 * places);
  sideKernels().steps(at, width, height, p.x, p.y, nx, ny, reach, profileAt, responseAt, towardsAt);
  releaseFrom(profileAt);
  return {
    response: new Float32Array(buffer(), responseAt, places),
    towards: new Float32Array(buffer(), towardsAt, places),
  };
}
