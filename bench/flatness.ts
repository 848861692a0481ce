import { applyHomography, homographyBetween } from '../core/geometry/homography';
import { distance, type Point } from '../core/geometry/point';
import { turnQuad, wholePicture, type Quad } from '../core/geometry/quad';
import type { PageShape } from '../core/flatten/flattenPage';
import { createLens } from '../demo/camera/lens';
import type { PhotoTruth } from '../demo/camera/savePhotograph';
import { createSheetSurface } from '../demo/camera/sheetSurface';

const GRID = 12;

/**
 * How far places of the page lie from where they belong once it is laid flat: the mean over a grid, in mm. Truth is the
 * simulator's own surface and lens.
 * @param shape - as found, corners beginning at any of the page's
 */
export function residualMm({ scene, pageWidthMm, pageHeightMm }: PhotoTruth, { corners, sheet }: PageShape): number {
  const lens = createLens(scene, pageWidthMm, pageHeightMm);
  const surface = createSheetSurface(scene, pageWidthMm, pageHeightMm);
  const turns = quarterTurnsTo(corners, [surface(0, 0), surface(pageWidthMm, 0), surface(pageWidthMm, pageHeightMm), surface(0, pageHeightMm)].map((p) => lens.project(p)) as unknown as Quad);
  const back = homographyBetween(corners, wholePicture(1, 1));
  let sum = 0;
  for (let j = 0; j <= GRID; j++) {
    for (let i = 0; i <= GRID; i++) {
      const u = i / GRID;
      const v = j / GRID;
      const seen = lens.project(surface(u * pageWidthMm, v * pageHeightMm));
      const found = turned(sheet === null ? applyHomography(back, seen) : placeOn(sheet.toPhoto, seen), turns);
      sum += Math.hypot((found.x - u) * pageWidthMm, (found.y - v) * pageHeightMm);
    }
  }
  return sum / (GRID + 1) ** 2;
}

/** Clockwise quarter turns after which the corners lie nearest the true ones. */
export function quarterTurnsTo(corners: Quad, truth: Quad): number {
  const off = [0, 1, 2, 3].map((turns) => turnQuad(corners, turns).reduce((sum, p, i) => sum + distance(p, truth[i]!), 0));
  return off.indexOf(Math.min(...off));
}

/** A place on the page as found, in shares, on the page turned clockwise. */
function turned({ x, y }: Point, turns: number): Point {
  let at = { x, y };
  for (let k = 0; k < turns; k++) at = { x: 1 - at.y, y: at.x };
  return at;
}

/** The place whose picture is seen here, by Newton's method. */
function placeOn(toPhoto: (u: number, v: number) => Point, seen: Point): Point {
  let u = 0.5;
  let v = 0.5;
  const h = 1e-4;
  for (let k = 0; k < 12; k++) {
    const p = toPhoto(u, v);
    const pu = toPhoto(u + h, v);
    const pv = toPhoto(u, v + h);
    const [a, b, c, d] = [(pu.x - p.x) / h, (pv.x - p.x) / h, (pu.y - p.y) / h, (pv.y - p.y) / h];
    const det = a * d - b * c;
    if (Math.abs(det) < 1e-9) break;
    const dx = seen.x - p.x;
    const dy = seen.y - p.y;
    u = Math.min(1.3, Math.max(-0.3, u + (d * dx - b * dy) / det));
    v = Math.min(1.3, Math.max(-0.3, v + (a * dy - c * dx) / det));
  }
  return { x: u, y: v };
}
