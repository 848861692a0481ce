import type { Point } from '../../core/imaging/geometry/point';
import { createRandom } from '../random';
import type { Exposure } from './paintScene';
import { LINEAR } from './paintScene';
import type { Scene } from './scene';

/** Skin in sRGB, from light to dark. */
const SKIN = [
  [236, 188, 160],
  [214, 158, 124],
  [164, 108, 76],
  [104, 66, 46],
] as const;

/** Lays a thumb over one side of the page, as a rounded, shaded finger that comes in from outside. */
export function paintThumb(out: Exposure, scene: Scene, boundary: readonly Point[], pxPerMm: number): void {
  const random = createRandom(scene.seed * 17 + 3);
  const centre = {
    x: boundary.reduce((s, p) => s + p.x, 0) / boundary.length,
    y: boundary.reduce((s, p) => s + p.y, 0) / boundary.length,
  };
  const visible = boundary.filter((p) => p.x > 0 && p.y > 0 && p.x < out.width && p.y < out.height);
  if (visible.length === 0) return;
  const at = random.pick(visible);
  const toCentre = Math.atan2(centre.y - at.y, centre.x - at.x) + random.between(-0.5, 0.5);
  const reach = random.between(8, 20) * pxPerMm;
  const tip = { x: at.x + Math.cos(toCentre) * reach, y: at.y + Math.sin(toCentre) * reach };
  const length = Math.hypot(out.width, out.height);
  const radius = random.between(8.5, 10.5) * pxPerMm;
  const skin = random.pick(SKIN);
  const dir = { x: -Math.cos(toCentre), y: -Math.sin(toCentre) };
  const x0 = Math.max(0, Math.floor(Math.min(tip.x, tip.x + dir.x * length) - radius * 2));
  const x1 = Math.min(out.width - 1, Math.ceil(Math.max(tip.x, tip.x + dir.x * length) + radius * 2));
  const y0 = Math.max(0, Math.floor(Math.min(tip.y, tip.y + dir.y * length) - radius * 2));
  const y1 = Math.min(out.height - 1, Math.ceil(Math.max(tip.y, tip.y + dir.y * length) + radius * 2));
  for (let y = y0; y <= y1; y++) {
    for (let x = x0; x <= x1; x++) {
      const along = Math.min(length, Math.max(0, (x - tip.x) * dir.x + (y - tip.y) * dir.y));
      const sideways = (x - tip.x) * -dir.y + (y - tip.y) * dir.x;
      const away = Math.hypot(x - tip.x - dir.x * along, y - tip.y - dir.y * along);
      const reachPx = radius * (1 + 0.16 * Math.min(1, along / (radius * 3)));
      const i = (y * out.width + x) * 3;
      if (away > reachPx) {
        const shadow = 1 - 0.35 * Math.max(0, 1 - (away - reachPx) / (radius * 0.5));
        for (let c = 0; c < 3; c++) out.data[i + c]! *= shadow;
        continue;
      }
      const height = Math.sqrt(1 - (away / reachPx) ** 2);
      const nail = along > radius * 0.1 && along < radius * 1.1 && Math.abs(sideways) < radius * 0.55 ? 1.14 : 1;
      const lit = (0.38 + 0.6 * height + 0.12 * (sideways / reachPx)) * nail;
      for (let c = 0; c < 3; c++) out.data[i + c] = LINEAR[skin[c]!]! * lit * 0.85;
    }
  }
}
