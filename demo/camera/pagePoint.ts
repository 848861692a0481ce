import type { Lens } from './lens';
import type { LightMap } from './lightMap';
import type { SheetSurface } from './sheetSurface';
import { crossProduct, dot, normalise, subtract } from './vector';

/** A page as it lies under its lamp, seen by a camera. */
export interface PagePlace {
  readonly widthMm: number;
  readonly heightMm: number;
  readonly surface: SheetSurface;
  readonly lens: Lens;
  readonly light: LightMap;
}

/** A point of the page, u and v mm from its top left: where it is seen, px, and how it is lit. */
export interface PagePoint {
  readonly x: number;
  readonly y: number;
  readonly u: number;
  readonly v: number;
  /** Share of full light on the paper, linear. */
  readonly shade: number;
  /** What the lamp's reflection adds, linear; 1 is white paper in full light. */
  readonly gloss: number;
}

/** Bends the light of a lamp and a room on a page, with a reflection as narrow as that of glossy paper. */
export function pagePoint({ widthMm, heightMm, surface, lens, light }: PagePlace, u: number, v: number): PagePoint {
  const at = surface(u, v);
  const du = subtract(surface(Math.min(widthMm, u + 1), v), surface(Math.max(0, u - 1), v));
  const dv = subtract(surface(u, Math.min(heightMm, v + 1)), surface(u, Math.max(0, v - 1)));
  let normal = normalise(crossProduct(du, dv));
  if (normal[2] < 0) normal = [-normal[0], -normal[1], -normal[2]];
  const lamp = light.lamp;
  // half of the light comes from the lamp, half from the room
  const facing = 0.5 * (Math.max(0, dot(normal, lamp)) / lamp[2]) + 0.5;
  const toEye = normalise(subtract(lens.position, at));
  const half = normalise([toEye[0] + lamp[0] * 0.6, toEye[1] + lamp[1] * 0.6, toEye[2] + lamp[2]]);
  const gloss = light.glare * Math.max(0, dot(normal, half)) ** 260;
  const { x, y } = lens.project(at);
  return { x, y, u, v, shade: facing * light.at(at[0], at[1]), gloss };
}
