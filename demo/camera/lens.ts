import type { Point } from '../../core/imaging/geometry/point';
import type { Scene } from './scene';
import { add, crossProduct, dot, normalise, scale, subtract, type Vector } from './vector';

/** A projective camera with first-order radial distortion. */
export interface Lens {
  readonly position: Vector;
  readonly right: Vector;
  readonly down: Vector;
  readonly forward: Vector;
  readonly focalPx: number;
  readonly radial: number;
  readonly centre: Point;
  project(world: Vector): Point;
  /** Where on the desk's plane a point of the picture lies; null at and above the horizon. */
  deskAt(xPx: number, yPx: number): { readonly xMm: number; readonly yMm: number } | null;
}

/** Rays that fall less steeply than this meet no desk. */
const HORIZON = -0.02;

/** Sets the camera up above the page so that the page fills its share of the picture. */
export function createLens(scene: Scene, pageWidthMm: number, pageHeightMm: number): Lens {
  const { widthPx, heightPx, focalShare, tiltRad, azimuthRad, fill, radial } = scene.camera;
  const focalPx = focalShare * Math.max(widthPx, heightPx);
  const c = Math.abs(Math.cos(scene.headingRad));
  const s = Math.abs(Math.sin(scene.headingRad));
  const spanX = pageWidthMm * c + pageHeightMm * s;
  const spanY = pageWidthMm * s + pageHeightMm * c;
  const distanceMm = focalPx * Math.max(spanX / (widthPx * fill), spanY / (heightPx * fill));
  const target: Vector = [scene.offCentre.x * spanX, scene.offCentre.y * spanY, 0];
  // a tilted camera sees the near side larger: step back so that it still fits
  const back = distanceMm * (1 + 0.35 * Math.sin(tiltRad));
  const offset: Vector = [
    Math.sin(tiltRad) * Math.cos(azimuthRad),
    Math.sin(tiltRad) * Math.sin(azimuthRad),
    Math.cos(tiltRad),
  ];
  const position = add(target, scale(offset, back));
  const forward = normalise(subtract(target, position));
  const right = normalise(crossProduct(forward, [0, 1, 0]));
  const down = crossProduct(right, forward);
  const centre = { x: widthPx / 2, y: heightPx / 2 };
  return {
    position,
    right,
    down,
    forward,
    focalPx,
    radial,
    centre,
    project: (world) => {
      const ray = subtract(world, position);
      const depth = dot(ray, forward);
      const x = dot(ray, right) / depth;
      const y = dot(ray, down) / depth;
      const bend = 1 + radial * (x * x + y * y);
      return { x: centre.x + focalPx * x * bend, y: centre.y + focalPx * y * bend };
    },
    deskAt: (xPx, yPx) => {
      let x = (xPx - centre.x) / focalPx;
      let y = (yPx - centre.y) / focalPx;
      const bend = 1 + radial * (x * x + y * y);
      x /= bend;
      y /= bend;
      const dz = forward[2] + right[2] * x + down[2] * y;
      if (dz > HORIZON) return null;
      const t = -position[2] / dz;
      return {
        xMm: position[0] + t * (forward[0] + right[0] * x + down[0] * y),
        yMm: position[1] + t * (forward[1] + right[1] * x + down[1] * y),
      };
    },
  };
}
