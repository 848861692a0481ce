import { TYPICAL_FOCAL_RATIO } from '../geometry/aspectRatio';
import { distanceToBentSide, pointOnBentSide, SIDE_DETAIL, type Bend, type Bends } from '../geometry/bentOutline';
import type { Point } from '../geometry/point';
import { mapQuad, type Quad } from '../geometry/quad';
import type { SheetEvidence } from './fittedSheet';
import { MOST_MODES, PARAMETER, seenOnSheet, type Sheet } from './sheetModel';

/*
 * What the outline of a page says of a sheet, and what sheets and cameras are like before anything is seen: the residuals of a
 * fit that do not come from lines.
 */

/** What depends on how finely the outline is known. */
interface Detail {
  /** Slopes that are looked for. */
  readonly modes: number;
  /** One residual of size 1 for this share of the photo's long side. */
  readonly noiseShare: number;
  /** How far the profile fades to either end (standard deviation), as a share: of the shapes that look alike, the evenest is meant. */
  readonly fadeSpread: number;
  /** Where rulings along the sides cost more than this, corners that lift are tried. */
  readonly liftsAbove: number;
}

/** Where each side is told by three numbers, whose errors all its places share. */
export const SKETCHED: Detail = { modes: 5, noiseShare: 0.0009, fadeSpread: 0.7, liftsAbove: 2 };
/** Where some side was traced, with its waves and folds. */
const TRACED: Detail = { modes: MOST_MODES, noiseShare: 0.0007, fadeSpread: 0.4, liftsAbove: 3 };

const isTraced = (bend: Bend): boolean => bend.length === SIDE_DETAIL;
export const detailOf = (bends: Bends): Detail => (bends.some(isTraced) ? TRACED : SKETCHED);

/** Where a side runs out of the photo it is so many times less sure. */
const UNSEEN = 10;
/** What lies this near to the photo's rim is taken to be out of it, as a share of its long side. */
const RIM = 0.003;
/** Standard deviation of the logarithm of the focal length where the lens is not told: phones' main lenses are within a seventh of each other. */
const FOCAL_LOG_SPREAD = 0.14;
/** And where no corner of the page is seen: such pictures are often cut out of larger ones, or scanned. */
const CROPPED_FOCAL_LOG_SPREAD = 0.6;
/** And where the photo tells it: what cropping and stabilising change. */
const KNOWN_FOCAL_LOG_SPREAD = 0.03;
/** First radial distortion coefficient; phones correct most of theirs. */
const RADIAL_SPREAD = 0.03;
/** How steep a sheet stands at its edges (standard deviation), in rad: of the shapes that look alike, the flattest is meant. */
const SLOPE_SPREAD = 0.28;
/** How far rulings turn from where the search begins, in rad. */
const RULING_SPREAD = 0.02;
/** And oblique ones, of which only the quarter is known. */
const OBLIQUE_SPREAD = 0.25;
/** How rulings converge (standard deviation), over page heights: lower makes cones into cylinders, higher cylinders into cones. */
const CONVERGENCE_SPREAD = 0.2;
/** How far the place and the size of a page that fills the photo are from the photo's (standard deviation), as a share of its long side. */
const LOOSE_SIZE = 0.015;
/** How far a place of its sides is from the photo's rim, where all places of a side go together. */
const LOOSE_SIDE = 0.1;
/** And its shape: how it is turned, sheared and runs together. */
const LOOSE_SHAPE = 0.1;

/** How a page is fitted to its lines alone. */
export interface Alone {
  /** Whether enough of them run down it. */
  readonly down: boolean;
  /** The side that is seen all the same: the fold of a book that fills the photo; null where none is. */
  readonly seenSide: number | null;
}

/** Places along a side that are compared: of one that was traced, those where it was. */
const samplesOf = (bend: Bend): number => (isTraced(bend) ? SIDE_DETAIL : 11);

/** How many residuals an outline has, on a sheet with so many slopes. */
export const countOutlineResiduals = ({ bends }: SheetEvidence, modes: number): number =>
  bends.map(samplesOf).reduce((p, q) => p + q) + 8 + 5 + modes;

/** Writes how far a sheet is from the outline and from what sheets are like. */
export function outlineResiduals(
  { corners, bends, photoWidth, photoHeight, focalRatio = null }: SheetEvidence,
  ruling: number,
  { oblique, alone }: { readonly oblique: boolean; readonly alone: Alone | null },
): (p: Float64Array, sheet: Sheet, out: Float64Array) => void {
  const longSide = Math.max(photoWidth, photoHeight);
  const quad = mapQuad(corners, (p) => ({
    x: (p.x - photoWidth / 2) / longSide,
    y: (p.y - photoHeight / 2) / longSide,
  }));
  const samples = bends.map(samplesOf);
  const isLoose = (side: number): boolean => alone !== null && alone.seenSide !== side;
  const noise = bends.map((bend, s) => (isLoose(s) ? LOOSE_SIDE : (isTraced(bend) ? TRACED : SKETCHED).noiseShare));
  const inPhoto = ({ x, y }: Point): boolean =>
    Math.abs(x) < photoWidth / longSide / 2 - RIM && Math.abs(y) < photoHeight / longSide / 2 - RIM;
  const seen = quad.map((corner, s) =>
    Array.from({ length: samples[s]! }, (_, i) =>
      inPhoto(pointOnBentSide(corner, quad[(s + 1) % 4]!, bends[s]!, (i + 0.5) / samples[s]!)),
    ),
  );
  const cornerNoise = quad.map((corner) => (inPhoto(corner) ? CORNER_NOISE : UNSEEN * CORNER_NOISE));
  const { fadeSpread } = detailOf(bends);
  const rulingSpread = oblique ? OBLIQUE_SPREAD : RULING_SPREAD;
  const priorFocal = Math.log(focalRatio ?? TYPICAL_FOCAL_RATIO);
  const focalSpread =
    focalRatio !== null ? KNOWN_FOCAL_LOG_SPREAD : quad.some(inPhoto) ? FOCAL_LOG_SPREAD : CROPPED_FOCAL_LOG_SPREAD;
  return (p, sheet, out) => {
    let at = 0;
    for (let s = 0; s < 4; s++) {
      for (let i = 0; i < samples[s]!; i++) {
        const t = (i + 0.5) / samples[s]!;
        const place = s % 2 === 0 ? seenOnSheet(sheet, t, s / 2) : seenOnSheet(sheet, s === 1 ? 1 : 0, t);
        const far = distanceToBentSide(place, quad[s]!, quad[(s + 1) % 4]!, bends[s]!);
        out[at++] = far / (isLoose(s) || seen[s]![i]! ? noise[s]! : UNSEEN * noise[s]!);
      }
    }
    const off = mapQuad(quad, (corner, c) => {
      const place = seenOnSheet(sheet, c === 1 || c === 2 ? 1 : 0, c >= 2 ? 1 : 0);
      return { x: place.x - corner.x, y: place.y - corner.y };
    });
    at = alone === null ? writeCorners(off, cornerNoise, out, at) : writeLooseCorners(off, alone, out, at);
    out[at++] = (p[PARAMETER.logFocal]! - priorFocal) / focalSpread;
    out[at++] = p[PARAMETER.radial]! / RADIAL_SPREAD;
    out[at++] = (p[PARAMETER.ruling]! - ruling) / rulingSpread;
    out[at++] = p[PARAMETER.fade]! / fadeSpread;
    out[at++] = p[PARAMETER.convergence]! / CONVERGENCE_SPREAD;
    for (let k = PARAMETER.slopes; k < p.length; k++) out[at++] = (p[k]! * (k - PARAMETER.slopes + 1)) / SLOPE_SPREAD;
  };
}

/** Corners are as sure as the sides they lie on. */
const CORNER_NOISE = 2 * SKETCHED.noiseShare;

function writeCorners(off: Quad, noise: readonly number[], out: Float64Array, at: number): number {
  off.forEach(({ x, y }, c) => {
    out[at + 2 * c] = x / noise[c]!;
    out[at + 2 * c + 1] = y / noise[c]!;
  });
  return at + 8;
}

/** A page whose sides are not seen is where the photo is, and as large: lines would all be straight on one that has no size. */
function writeLooseCorners([tl, tr, br, bl]: Quad, { down, seenSide }: Alone, out: Float64Array, at: number): number {
  const [top, right, bottom, left] = [tr.x - tl.x, br.y - tr.y, br.x - bl.x, bl.y - tl.y]; // how much longer each side is
  out[at++] = (tl.x + tr.x + br.x + bl.x) / 4 / LOOSE_SIZE;
  out[at++] = (tl.y + tr.y + br.y + bl.y) / 4 / LOOSE_SIZE;
  out[at++] = (top + bottom) / 2 / LOOSE_SIZE;
  out[at++] = (left + right) / 2 / LOOSE_SIZE;
  // how it is turned and sheared
  out[at++] = (tr.y + br.y - tl.y - bl.y) / 2 / LOOSE_SHAPE;
  out[at++] = (bl.x + br.x - tl.x - tr.x) / 2 / LOOSE_SHAPE;
  // how it runs together: to one side lines that run across it say that, upwards only such as run down it, or a side that is seen
  out[at++] = (left - right) / 2 / LOOSE_SHAPE;
  out[at++] = (top - bottom) / 2 / (down || seenSide !== null ? LOOSE_SHAPE : LOOSE_SIZE);
  return at;
}
