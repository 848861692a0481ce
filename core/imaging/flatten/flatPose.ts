import { recoverPose } from '../geometry/aspectRatio';
import type { Quad } from '../geometry/quad';
import { PARAMETER, rotationMatrix } from './sheetModel';

/** What is known of the camera that a page was shot with. */
export interface ShotFrom {
  readonly photoWidth: number;
  readonly photoHeight: number;
  /** Focal length over the photo's long side, where the file tells it. */
  readonly focalRatio?: number | null;
}

/** Rulings that meet nowhere tell a search nothing of how they might: it begins with some that meet far away. */
export const FAR_AWAY = 0.01;

/**
 * Pose, focal length and proportions of the flat sheet with these corners: where a fit begins.
 * @param modes - slopes after it, all 0
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function flatPose(
  corners: Quad,
  { photoWidth, photoHeight, focalRatio }: ShotFrom,
  modes: number,
): Float64Array {
  const pose = recoverPose(corners, photoWidth, photoHeight, focalRatio);
  const norm = (Math.hypot(...pose.across) + Math.hypot(...pose.down)) / 2;
  const first = unit(pose.across);
  const along = first.reduce((sum, value, i) => sum + (value * pose.down[i]!) / norm, 0);
  const second = unit(pose.down.map((value, i) => value / norm - along * first[i]!));
  const third = [
    first[1]! * second[2]! - first[2]! * second[1]!,
    first[2]! * second[0]! - first[0]! * second[2]!,
    first[0]! * second[1]! - first[1]! * second[0]!,
  ];
  const start = new Float64Array(PARAMETER.slopes + modes);
  start.set(axisAngle([0, 1, 2].flatMap((i) => [first[i]!, second[i]!, third[i]!])));
  const middle = pose.corner.map((value, i) => (value + (pose.across[i]! * pose.aspect + pose.down[i]!) / 2) / norm);
  start.set(middle, PARAMETER.position);
  start[PARAMETER.logFocal] = Math.log(pose.focalRatio);
  start[PARAMETER.logAspect] = Math.log(pose.aspect);
  start[PARAMETER.convergence] = FAR_AWAY;
  return start;
}

/** The parameters of a sheet that is turned, in its own frame, about an axis times an angle. */
export function turnedSheet(p: Float64Array, axis: readonly [number, number, number]): Float64Array {
  const [r, turn] = [rotationMatrix(p[0]!, p[1]!, p[2]!), rotationMatrix(...axis)];
  const product = r.map((_, i) =>
    [0, 1, 2].reduce((sum, k) => sum + r[3 * Math.floor(i / 3) + k]! * turn[3 * k + (i % 3)]!, 0),
  );
  const turned = p.slice();
  turned.set(axisAngle(product));
  return turned;
}

const unit = (v: readonly number[]): number[] => {
  const length = Math.hypot(...v) || 1;
  return v.map((x) => x / length);
};

/** The axis times the angle of a rotation matrix, row-major. */
function axisAngle(r: readonly number[]): [number, number, number] {
  const angle = Math.acos(Math.min(1, Math.max(-1, (r[0]! + r[4]! + r[8]! - 1) / 2)));
  if (angle < 1e-9) return [0, 0, 0];
  if (Math.PI - angle < 1e-4) {
    // half a turn: the axis is the longest column of R + I
    const columns = [0, 1, 2].map((c) => [
      r[c]! + (c === 0 ? 1 : 0),
      r[3 + c]! + (c === 1 ? 1 : 0),
      r[6 + c]! + (c === 2 ? 1 : 0),
    ]);
    const axis = unit(columns.sort((p, q) => Math.hypot(...q) - Math.hypot(...p))[0]!);
    return [axis[0]! * angle, axis[1]! * angle, axis[2]! * angle];
  }
  const k = angle / (2 * Math.sin(angle));
  return [(r[7]! - r[5]!) * k, (r[2]! - r[6]!) * k, (r[3]! - r[1]!) * k];
}
