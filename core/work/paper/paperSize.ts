import type { PageKind } from './pageKind';

/** Paper a hand-in can be bound on: auto takes each page's own proportions to the sheet they belong to, asshot keeps them whatever they are. */
export const PAPERS = ['auto', 'a4', 'letter', 'a5', 'asshot'] as const;
export type Paper = (typeof PAPERS)[number];

const SHEETS_MM = { a4: [210, 297], letter: [215.9, 279.4], a5: [148, 210] } as const;

/** ISO/IEC 7810 ID-1, the size of a student card. */
export const CARD_LONG_SIDE_MM = 85.6;

export const A4_LONG_SIDE_MM = 297;

export const POINTS_PER_MM = 72 / 25.4;

export interface SheetSizeMm {
  readonly widthMm: number;
  readonly heightMm: number;
}

/** Proportions this close to a sheet's fill it (as a share). */
const FILL_TOLERANCE = 0.035;
/** Proportions this close are put on that sheet: an outline set by hand is seldom exact, and a course office wants paper. */
const SHEET_TOLERANCE = 0.1;

/**
 * The sheet a page is put on, turned the way the page is.
 * @param width - page picture in px; only proportions matter
 * @param kind - a card brings its own size
 * @returns for auto: A4 or Letter, whichever is nearer in proportions, else (cards, squares) a sheet of the page's own proportions with A4's long side
 */
export function sheetFor(width: number, height: number, paper: Paper, kind?: PageKind): SheetSizeMm {
  const landscape = width > height;
  const turned = ([short, long]: readonly [number, number]): SheetSizeMm =>
    landscape ? { widthMm: long, heightMm: short } : { widthMm: short, heightMm: long };
  const ratio = Math.max(width, height) / Math.min(width, height);
  if (paper === 'asshot') return turned([SHEETS_MM.a4[1] / ratio, SHEETS_MM.a4[1]]);
  if (paper !== 'auto') return turned(SHEETS_MM[paper]);
  if (kind === 'card') return turned([CARD_LONG_SIDE_MM / ratio, CARD_LONG_SIDE_MM]);
  const miss = (sheet: readonly [number, number]): number => Math.abs(ratio / (sheet[1] / sheet[0]) - 1);
  const nearest = miss(SHEETS_MM.a4) <= miss(SHEETS_MM.letter) ? SHEETS_MM.a4 : SHEETS_MM.letter;
  return miss(nearest) < SHEET_TOLERANCE ? turned(nearest) : turned([SHEETS_MM.a4[1] / ratio, SHEETS_MM.a4[1]]);
}

export interface PlaceMm {
  readonly xMm: number;
  readonly yMm: number;
  readonly widthMm: number;
  readonly heightMm: number;
}

/**
 * Where the picture lies on its sheet, in mm from the lower left: filled where the proportions agree, else centred.
 * @param marginMm - paper left free on all sides
 */
export function placeOnSheet(
  width: number,
  height: number,
  sheet: SheetSizeMm,
  kind?: PageKind,
  marginMm = 0,
): PlaceMm {
  if (kind === 'card') return placeCard(width, height, sheet);
  const room = { widthMm: sheet.widthMm - 2 * marginMm, heightMm: sheet.heightMm - 2 * marginMm };
  const off = width / height / (room.widthMm / room.heightMm);
  if (marginMm === 0 && Math.abs(off - 1) < FILL_TOLERANCE) return { xMm: 0, yMm: 0, ...sheet };
  const widthMm = off > 1 ? room.widthMm : room.heightMm * (width / height);
  const heightMm = off > 1 ? room.widthMm / (width / height) : room.heightMm;
  return { xMm: (sheet.widthMm - widthMm) / 2, yMm: (sheet.heightMm - heightMm) / 2, widthMm, heightMm };
}

/** The same sheet, made larger or smaller so that it is this wide. */
export const sheetOfWidth = ({ widthMm, heightMm }: SheetSizeMm, toMm: number): SheetSizeMm => ({
  widthMm: toMm,
  heightMm: (heightMm * toMm) / widthMm,
});

/** A card keeps its true size, in the middle of whatever paper it is put on. */
function placeCard(width: number, height: number, { widthMm, heightMm }: SheetSizeMm): PlaceMm {
  const perPx = CARD_LONG_SIDE_MM / Math.max(width, height);
  return {
    xMm: (widthMm - width * perPx) / 2,
    yMm: (heightMm - height * perPx) / 2,
    widthMm: width * perPx,
    heightMm: height * perPx,
  };
}

/** The long side in px that the page's picture has at this many dots per inch on its sheet. */
export function longSideAtDpi(width: number, height: number, paper: Paper, dpi: number, kind?: PageKind): number {
  const { widthMm, heightMm } = placeOnSheet(width, height, sheetFor(width, height, paper, kind), kind);
  return Math.round((Math.max(widthMm, heightMm) / 25.4) * dpi);
}
