import { recoverPose } from '../geometry/aspectRatio';
import { quartersOf, type Bend, type Bends } from '../geometry/bentOutline';
import type { Quad } from '../geometry/quad';

/*
 * Paper bends in one direction only. Of a sheet's two pairs of opposite sides one is straight; the sides of the other are
 * lifted off the plane of the corners along the same profile, the one perhaps less than the other. Where an outline is put
 * together from edges that are not all the sheet's, it bends as no sheet does.
 */

/** Noise of a bend as found (standard deviation), as a share of its side. */
const BEND_SPREAD = 0.004;
/** How high sheets are lifted off their plane (standard deviation), in roots of their area. */
const LIFT_SPREAD = 0.13;
/** What one side is lifted beside its opposite. */
const FADES = [1, 0.75, 0.5, 0.25, 0] as const;
/** Asymmetry |first − last| / peak that a fading profile may have, seen at a slant. A curl along a binding has more, but does not fade. */
const MOST_LOPSIDED = 0.35;
/** Beyond that it costs 1 for this much more, growing with the square. */
const LOPSIDED_SPREAD = 0.08;
/** Below this share of its side a bend is noise, whose asymmetry says nothing. */
const BENT_FROM = 0.012;
/** Where along a side bends are given. */
const QUARTERS = [0.25, 0.5, 0.75] as const;

/** By how much a side's bend changes at its quarters when the sheet is lifted there by the root of its area. */
function bendsOfLift(quad: Quad, width: number, height: number): readonly Bend[] {
  const { aspect, focalRatio, corner, across, down, normal } = recoverPose(quad, width, height);
  const f = focalRatio * Math.max(width, height);
  const up = normal.map((value) => value * Math.sqrt(aspect));
  const corners = [
    [0, 0],
    [aspect, 0],
    [aspect, 1],
    [0, 1],
  ] as const;
  return corners.map(([fromX, fromY], s) => {
    const [toX, toY] = corners[(s + 1) % 4]!;
    const a = quad[s]!;
    const b = quad[(s + 1) % 4]!;
    const squared = (b.x - a.x) ** 2 + (b.y - a.y) ** 2;
    return QUARTERS.map((t) => {
      const x = fromX + (toX - fromX) * t;
      const y = fromY + (toY - fromY) * t;
      const at = corner.map((value, i) => value + x * across[i]! + y * down[i]!);
      const moves = [0, 1].map((i) => (f * (up[i]! - (at[i]! / at[2]!) * up[2]!)) / at[2]!);
      return (moves[0]! * (b.y - a.y) - moves[1]! * (b.x - a.x)) / squared;
    });
  });
}

/**
 * How unlike a sheet of paper an outline bends: a sum of squared deviations in units of their usual size. True outlines cost 0
 * to 5, what no sheet does costs 15 and more.
 * Method: least squares for the lifts at the quarters of two opposite sides, the others straight; the cheaper of the two
 * directions counts.
 * @param quad - corners in photo pixels; photo size in px
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function developabilityResidual(quad: Quad, outline: Bends, width: number, height: number): number {
  const bends = outline.map(quartersOf) as unknown as Bends;
  const lifts = bendsOfLift(quad, width, height);
  const straight = (s: number): number => bends[s]!.reduce((sum, bend) => sum + (bend / BEND_SPREAD) ** 2, 0);
  const pair = (s: number): number => {
    const uneven = lopsided(bends[s]!) + lopsided(bends[s + 2]!);
    return Math.min(
      ...FADES.map(
        (fade) =>
          Math.min(liftCost(bends, lifts, s, 1, fade), liftCost(bends, lifts, s, fade, 1)) + (1 - fade) * uneven,
      ),
    );
  };
  return Math.min(pair(0) + straight(1) + straight(3), pair(1) + straight(0) + straight(2));
}

function liftCost(bends: Bends, lifts: readonly Bend[], s: number, first: number, second: number): number {
  let cost = 0;
  for (let i = 0; i < QUARTERS.length; i++) {
    const [bend, opposite] = [bends[s]![i]!, bends[s + 2]![2 - i]!];
    const [gain, oppositeGain] = [first * lifts[s]![i]!, second * lifts[s + 2]![2 - i]!];
    const lift =
      (gain * bend + oppositeGain * opposite) / (gain ** 2 + oppositeGain ** 2 + (BEND_SPREAD / LIFT_SPREAD) ** 2);
    cost +=
      ((bend - gain * lift) ** 2 + (opposite - oppositeGain * lift) ** 2) / BEND_SPREAD ** 2 +
      (lift / LIFT_SPREAD) ** 2;
  }
  return cost;
}

function lopsided(bend: Bend): number {
  const [first, half, last] = [bend[0]!, bend[1]!, bend[2]!];
  const peak = Math.max(Math.abs(first), Math.abs(half), Math.abs(last));
  if (peak < BENT_FROM) return 0;
  return Math.max(0, (Math.abs(first - last) / peak - MOST_LOPSIDED) / LOPSIDED_SPREAD) ** 2;
}
