import type { Point } from '../geometry/point';
import { withWorkspace } from '../kernels/workspace';
import { CHANNELS, type ColourPicture } from './colourPicture';

/** How strong a step is at each whole px across a side, from -reach to reach, in levels; the sign of `towards` says whether it gets paler inwards. */
export interface EdgeProfile {
  readonly response: Float32Array;
  readonly towards: Float32Array;
}

/** How far to either side of a place a step is correlated, px. */
const STEP_HALF = 3;

/**
 * Correlates the profile through p along the normal with a step.
 * @param picture - in pixels of its own; so is p
 * @param reach - how far to either side, whole px
 */
export function edgeProfile(
  { width, height, samples }: ColourPicture,
  p: Point,
  nx: number,
  ny: number,
  reach: number,
): EdgeProfile {
  return withWorkspace((ws) => {
    const places = 2 * reach + 1;
    const profile = ws.f32(CHANNELS * (places + 2 * STEP_HALF));
    const response = ws.f32(places);
    const towards = ws.f32(places);
    ws.kernels.edgeProfile(samples.at, width, height, p.x, p.y, nx, ny, reach, profile.at, response.at, towards.at);
    return { response: response.copy(), towards: towards.copy() };
  });
}
