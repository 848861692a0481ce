import { ALL_STRAIGHT, bendAt, SIDE_DETAIL, STRAIGHT, type Bends } from '../geometry/bentOutline';
import { distance, distanceToLine, type Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { findPageLines } from './findPageLines';
import { fitSheetToLines } from './fitSheet';
import type { FittedSheet } from './fittedSheet';
import { readShape, type PageShape } from './flattenPage';
import { readingPage } from './readingPage';
import { photoToPage } from './placeOnPage';
import { MIN_LINES, type PageLine } from './pageLine';

/** How a page lies whose sides are not seen. */
export interface LevelledPage {
  readonly corners: Quad;
  readonly bends: Bends;
  readonly lines: readonly PageLine[];
}

/** How often lines are looked for: once the page is nearly level, more are found. */
const PASSES = 3;
/** A side that leaves its chord by less than this share is straight. */
const MIN_BEND = 0.001;

/**
 * Lays a page flat that fills the photo, so that no side of it is seen, by the lines that stand on it.
 * @param corners - the whole photo, or the half of it that is one page of a book, as the page is read
 * @param focalRatio - focal length over the photo's long side, or null
 * @param seenSide - the side of such a half that is the book's fold
 * @returns an outline whose sides run along and across the lines; null where the page is level, or its lines are too few
 */
export function levelByLines(
  photo: PixelImage,
  corners: Quad,
  focalRatio: number | null,
  seenSide: number | null = null,
): LevelledPage | null {
  const flat = readShape(corners, photo, { focalRatio });
  const { width: photoWidth, height: photoHeight } = photo;
  const evidence = { corners, bends: ALL_STRAIGHT, photoWidth, photoHeight, focalRatio };
  let sheet: FittedSheet | null = null;
  let lines: readonly PageLine[] = [];
  for (let pass = 0; pass < PASSES; pass++) {
    const shape = { ...flat, sheet };
    const found = findPageLines(readingPage(photo, shape), shape, { handwritten: true });
    if (pass === 0 && areLevel(found, flat)) return null;
    const fitted = found.length < MIN_LINES ? null : fitSheetToLines({ ...evidence, lines: found }, seenSide);
    if (fitted === null) break;
    sheet = fitted;
    lines = found;
  }
  if (sheet === null) return null;
  return { ...outlineOf(sheet), lines };
}

/** Lines may leave a level course by so much, in page heights: half of what is seen. */
const LEVEL_WITHIN = 0.0008;
/** Share of the lines that must keep to it. */
const MOSTLY = 0.8;

/** Whether a page that lies flat as it is has nothing to be straightened. */
function areLevel(lines: readonly PageLine[], flat: PageShape): boolean {
  const toPage = photoToPage(flat);
  const level = lines.filter(({ along, points }) => {
    const off = points.map(toPage).map(({ x, y }) => (along === 'across' ? y : x));
    return Math.max(...off) - Math.min(...off) < 2 * LEVEL_WITHIN;
  });
  return level.length >= MOSTLY * lines.length;
}

/** The outline of a sheet in the photo. */
function outlineOf({ toPhoto }: FittedSheet): { readonly corners: Quad; readonly bends: Bends } {
  const corners: Quad = [toPhoto(0, 0), toPhoto(1, 0), toPhoto(1, 1), toPhoto(0, 1)];
  const sides: ((t: number) => Point)[] = [
    (t) => toPhoto(t, 0),
    (t) => toPhoto(1, t),
    (t) => toPhoto(1 - t, 1),
    (t) => toPhoto(0, 1 - t),
  ];
  const bends = sides.map((side, s) => {
    const [a, b] = [corners[s]!, corners[(s + 1) % 4]!];
    const length = distance(a, b);
    const bend = Array.from({ length: SIDE_DETAIL }, (_, k) => {
      const share = (k + 1) / (SIDE_DETAIL + 1);
      return -distanceToLine(side(shareAlong(side, a, b, share)), a, b) / length;
    });
    return Math.max(...[0.25, 0.5, 0.75].map((t) => Math.abs(bendAt(bend, t)))) < MIN_BEND ? STRAIGHT : bend;
  }) as unknown as Bends;
  return { corners, bends };
}

/** Where along a side its place stands at a share of the chord: nearer things look longer. */
function shareAlong(side: (t: number) => Point, a: Point, b: Point, share: number): number {
  let [low, high] = [0, 1];
  const length = distance(a, b);
  for (let k = 0; k < 20; k++) {
    const t = (low + high) / 2;
    const p = side(t);
    const along = ((p.x - a.x) * (b.x - a.x) + (p.y - a.y) * (b.y - a.y)) / (length * length);
    if (along < share) low = t;
    else high = t;
  }
  return (low + high) / 2;
}
