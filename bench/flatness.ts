import { distance, type Point } from '../core/imaging/geometry/point';
import { turnQuad, type Quad } from '../core/imaging/geometry/quad';
import type { FittedSheet } from '../core/imaging/flatten/fittedSheet';
import type { PageShape } from '../core/imaging/flatten/flattenPage';
import { photoToPage } from '../core/imaging/flatten/placeOnPage';
import { createLens } from '../demo/camera/lens';
import type { PhotoTruth } from '../demo/camera/savePhotograph';
import { createSheetSurface } from '../demo/camera/sheetSurface';

const GRID = 12;

/** The sheet as it truly lay, for laying a simulated photo flat without a detector's or a fit's errors. */
export function trueSheet({ scene, pageWidthMm, pageHeightMm }: PhotoTruth): FittedSheet {
  const lens = createLens(scene, pageWidthMm, pageHeightMm);
  const surface = createSheetSurface(scene, pageWidthMm, pageHeightMm);
  return {
    aspect: pageWidthMm / pageHeightMm,
    toPhoto: (u, v) => lens.project(surface(u * pageWidthMm, v * pageHeightMm)),
  };
}

/**
 * How far places of the page lie from where they belong once it is laid flat: the mean over a grid, in mm. Truth is the
 * simulator's own surface and lens.
 * @param shape - as found, corners beginning at any of the page's
 */
export function residualMm({ scene, pageWidthMm, pageHeightMm }: PhotoTruth, { corners, sheet }: PageShape): number {
  const lens = createLens(scene, pageWidthMm, pageHeightMm);
  const surface = createSheetSurface(scene, pageWidthMm, pageHeightMm);
  const turns = quarterTurnsTo(
    corners,
    [surface(0, 0), surface(pageWidthMm, 0), surface(pageWidthMm, pageHeightMm), surface(0, pageHeightMm)].map((p) =>
      lens.project(p),
    ) as unknown as Quad,
  );
  const toPage = photoToPage({ corners, sheet });
  let sum = 0;
  for (let j = 0; j <= GRID; j++) {
    for (let i = 0; i <= GRID; i++) {
      const u = i / GRID;
      const v = j / GRID;
      const seen = lens.project(surface(u * pageWidthMm, v * pageHeightMm));
      const found = turned(toPage(seen), turns);
      sum += Math.hypot((found.x - u) * pageWidthMm, (found.y - v) * pageHeightMm);
    }
  }
  return sum / (GRID + 1) ** 2;
}

/** Clockwise quarter turns after which the corners lie nearest the true ones. */
export function quarterTurnsTo(corners: Quad, truth: Quad): number {
  const off = [0, 1, 2, 3].map((turns) =>
    turnQuad(corners, turns).reduce((sum, p, i) => sum + distance(p, truth[i]!), 0),
  );
  return off.indexOf(Math.min(...off));
}

/** A place on the page as found, in shares, on the page turned clockwise. */
export function turned({ x, y }: Point, turns: number): Point {
  let at = { x, y };
  for (let k = 0; k < turns; k++) at = { x: 1 - at.y, y: at.x };
  return at;
}
