import { bendAt, mostBent, type Bend } from '../geometry/bentOutline';
import { leastSquares } from '../geometry/leastSquares';
import { scalePoint, type Point } from '../geometry/point';
import { scaleQuad } from '../geometry/quad';
import type { FittedSheet, SheetEvidence } from './fittedSheet';
import { FAR_AWAY, flatPose } from './flatPose';
import { interpolateSides } from './interpolateSides';
import { likelyLifts, type Start } from './likelyLifts';
import { countLineResiduals, linesToLocate, locateLines, writeLineResiduals, type LocatedLine } from './lineEvidence';
import { countOutlineResiduals, detailOf, outlineResiduals, SKETCHED, type Alone } from './outlineEvidence';
import { lineMesh } from './lineMesh';
import { MIN_LINES, scaleLines } from './pageLine';
import { PARAMETER, seenOnSheet, sheetOf } from './sheetModel';

/*
 * The shape of a sheet that does not lie flat, from its bent outline and from the lines that stand on it.
 * Pose, focal length, lens distortion, proportions, rulings and slopes of the model (sheetModel.ts) are found together by least
 * squares: first on the outline, from several starts, for what bends along a side, along an oblique ruling or towards an apex
 * can look alike there; then, where lines are known, the best of these once more on both. Lines that the outline contradicts are
 * left aside.
 * Limits: bends in one direction only. An outline that no such sheet has is laid flat between its sides instead
 * (interpolateSides); a crumpled sheet stays crumpled.
 */

/** A page whose sides leave their chords by less than this share of them is flat: half a mm at most of A4's long side. */
const FLAT_BELOW = 0.001;
/** What it costs rulings to run askew: such sheets are rarer. */
const OBLIQUE_COST = 2;
/** How steep a sheet bends at the start of the search, in rad: either way. */
const FIRST_SLOPES = [0.12, -0.12] as const;
/** A fit that costs less needs no other to be tried. */
const WELL_EXPLAINED = 3;
/** Outlines of sheets cost 1 to 20, waves and folds up to 50; from here on a fit explains nothing. */
const UNEXPLAINED_ABOVE = 60;
/** A step that makes a fit better by less than this share is its last: what follows moves no place by a twentieth of a mm. */
const ENOUGH = 1e-3;
/** Fits that are looked at again with the lines: the outline alone may not say which is right. */
const REFITTED = 2;
/** Lines that run down a page are believed from so many on. */
const MIN_DOWN = 3;
/** A page that fills the photo costs 2 to 20 to be unlike it; from here on lines bend it to what no page is. */
const UNLIKE_ABOVE = 30;
/** Places on the lines are looked up again and again, at first with so many times their noise: near the outline's fit hardly more. */
const SLACKENING = [1, 1] as const;
/** And where that does not help. */
const SLACKENING_ALONE = [20, 5, 1, 1] as const;
/** What a residual of lines may cost on average: lines of one page cost a tenth or less, curves that are drawn on it a half and more. */
const LINE_COST = 0.42;
/** Lines may cost the outline so much; what costs it more bends a flat page along what is drawn on it. */
const LINES_MAY_COST = 12;

/**
 * Fits the sheet; method and limits above. Takes 10 to 80 ms where there is something to fit.
 * @param evidence - corners in photo pixels, TL, TR, BR, BL as the page is read, how the sides leave their chords, and lines
 * @returns where each place of the page lies in photo pixels; null where the sides are straight, no line says otherwise, and a homography says it all
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function fitSheet(evidence: SheetEvidence): FittedSheet | null {
  const longSide = Math.max(evidence.photoWidth, evidence.photoHeight);
  const sheet = fitOnce(inLongSides(evidence, longSide));
  if (sheet === null) return null;
  return { aspect: sheet.aspect, toPhoto: (u, v) => scalePoint(sheet.toPhoto(u, v), longSide) };
}

/** The same with the photo's long side for a unit. */
const inLongSides = (evidence: SheetEvidence, longSide: number): SheetEvidence => ({
  ...evidence,
  corners: scaleQuad(evidence.corners, 1 / longSide),
  lines: scaleLines(evidence.lines ?? [], 1 / longSide),
  photoWidth: evidence.photoWidth / longSide,
  photoHeight: evidence.photoHeight / longSide,
});

/** Fits that are kept: a page is shown at several sizes one after another, and lies the same way at each. */
const KEPT = 8;
/** The fits made last, by their evidence. */
const kept = new Map<string, FittedSheet | null>();

/** The fit, made once for evidence that is the same to a ten millionth. */
function fitOnce(evidence: SheetEvidence): FittedSheet | null {
  const key = JSON.stringify(evidence, (_, value: unknown) =>
    typeof value === 'number' ? Math.round(value * 1e7) / 1e7 : value,
  );
  const known = kept.get(key);
  if (known !== undefined) return known;
  const sheet = fitToEvidence(evidence);
  kept.set(key, sheet);
  if (kept.size > KEPT) kept.delete(kept.keys().next().value!);
  return sheet;
}

function fitToEvidence(evidence: SheetEvidence): FittedSheet | null {
  const lined = (evidence.lines?.length ?? 0) >= MIN_LINES;
  const bent = mostBent(evidence.bends) >= FLAT_BELOW;
  if (!bent && !lined) return null;
  const fits = bent ? fitOutline(evidence) : [flatFit(evidence)];
  const best = cheapest(fits);
  const withLines = lined ? fitLines(evidence, fits) : null;
  if (withLines !== null) return withLines.sheet;
  if (!bent) return null;
  return best.cost > UNEXPLAINED_ABOVE ? interpolateSides(evidence) : best.sheet;
}

const cheapest = (fits: readonly Fit[]): Fit => fits.reduce((p, q) => (q.cost < p.cost ? q : p));

/** Fits on the outline alone; one where it explains all. */
function fitOutline(evidence: SheetEvidence): readonly Fit[] {
  const { modes, liftsAbove } = detailOf(evidence.bends);
  const flat = flatPose(evidence.corners, evidence, modes);
  const fits: Fit[] = [];
  const explained = (): boolean => fits.some(({ cost }) => cost < WELL_EXPLAINED);
  for (const [ruling, slope, convergence] of likelyRulings(evidence)) {
    if (explained()) break;
    const parameters = flat.slice();
    parameters[PARAMETER.ruling] = ruling;
    parameters[PARAMETER.slopes] = slope;
    parameters[PARAMETER.convergence] = convergence;
    fits.push(fitFrom(evidence, { parameters, ruling }));
  }
  if (cheapest(fits).cost <= liftsAbove) return fits;
  return [...fits, ...likelyLifts(evidence, modes).map((start) => fitFrom(evidence, start, { oblique: true }))];
}

/** The flat sheet of the corners, as a fit that lines can bend. */
function flatFit(evidence: SheetEvidence): Fit {
  const parameters = flatPose(evidence.corners, evidence, SKETCHED.modes);
  return fitFrom(evidence, { parameters, ruling: 0 });
}

/** The fit on outline and lines together; null where the outline contradicts the lines, or they each other. */
function fitLines(evidence: SheetEvidence, fits: readonly Fit[]): Fit | null {
  const lines = linesToLocate(evidence);
  const best = cheapest(
    [...fits]
      .sort((p, q) => p.cost - q.cost)
      .slice(0, REFITTED)
      .map((fit) => alongLines(evidence, fit, { oblique: fit.oblique, lines })),
  );
  const contradicted = best.outlineCost > cheapest(fits).cost + LINES_MAY_COST;
  return contradicted || !agree(best, lines) ? null : meshed(best, lines);
}

/** The fit with what its lines say beyond it. */
function meshed(fit: Fit, lines: readonly LocatedLine[]): Fit {
  locateLines(lines, sheetOf(fit.parameters));
  const { aspect, toPhoto } = fit.sheet;
  const move = lineMesh(lines, aspect);
  if (move === null) return fit;
  const moved = (u: number, v: number): Point => {
    const { x, y } = move(u, v);
    return toPhoto(x, y);
  };
  return { ...fit, sheet: { aspect, toPhoto: moved } };
}

/** A fit once more with lines, which are looked up on it again and again. */
function alongLines(
  evidence: SheetEvidence,
  from: Fit,
  { lines, alone = null, oblique }: FitOptions & { readonly lines: readonly LocatedLine[] },
): Fit {
  let fit = from;
  for (const slack of alone === null ? SLACKENING : SLACKENING_ALONE) {
    locateLines(lines, sheetOf(fit.parameters));
    fit = fitFrom(evidence, fit, { lines, alone, oblique, slack });
  }
  return fit;
}

/** Whether lines lie straight and parallel on the sheet that was fitted to them. */
const agree = ({ cost, outlineCost }: Fit, lines: readonly LocatedLine[]): boolean =>
  cost - outlineCost <= LINE_COST * countLineResiduals(lines);

/**
 * Fits the sheet of a page none of whose sides is seen, to its lines alone.
 * @param evidence - its corners say roughly what is page: the whole photo, or half of it; its bends say nothing
 * @param seenSide - the one side that is seen all the same: the fold of a book that fills the photo
 * @returns null where the lines do not lie straight and parallel on any such sheet
 * @throws FotoplanError OUTLINE_DEGENERATE when three corners lie on one line
 */
export function fitSheetToLines(evidence: SheetEvidence, seenSide: number | null = null): FittedSheet | null {
  const lines = linesToLocate(evidence);
  const flat = flatPose(evidence.corners, evidence, SKETCHED.modes);
  const alone = { down: lines.filter(({ across }) => !across).length >= MIN_DOWN, seenSide };
  // a book bends along its fold
  const rulings = seenSide === null ? [0, Math.PI / 2] : [seenSide % 2 === 1 ? 0 : Math.PI / 2];
  const fits = rulings.map((ruling) => {
    const start = fitFrom(evidence, { parameters: flat, ruling }, { alone });
    return alongLines(evidence, start, { lines, alone });
  });
  const best = cheapest(fits);
  return agree(best, lines) && best.outlineCost < UNLIKE_ABOVE ? best.sheet : null;
}

/** Where searches begin, as [direction across the rulings in rad, slope in rad, convergence]. */
type FirstGuess = readonly [ruling: number, slope: number, convergence: number];

/** Rulings that lie along the sides, first those across which the sides bend more; then such as meet where the sides say. */
function likelyRulings({ bends: [top, right, bottom, left] }: SheetEvidence): readonly FirstGuess[] {
  const most = (...sides: readonly Bend[]): number => Math.max(...sides.flat().map(Math.abs));
  const rulings = most(top, bottom) >= most(left, right) ? [0, Math.PI / 2] : [Math.PI / 2, 0];
  const parallel = rulings.flatMap((ruling) => FIRST_SLOPES.map((slope) => [ruling, slope, FAR_AWAY] as const));
  // what bends one way points out of the page on one of two opposite sides and into it on the other
  const apex =
    rulings[0] === 0
      ? convergenceOf(middleOf(top), -middleOf(bottom))
      : convergenceOf(-middleOf(right), middleOf(left));
  return apex === null ? parallel : [...parallel, ...FIRST_SLOPES.map((slope) => [rulings[0]!, slope, apex] as const)];
}

const middleOf = (bend: Bend): number => bendAt(bend, 0.5);

/** How rulings converge between whose ends the sheet's bend grows from one to another; null where it does not. */
function convergenceOf(first: number, last: number): number | null {
  if (first * last <= 0) return null;
  const guess = (2 * (last - first)) / (last + first);
  return Math.abs(guess) < 0.3 ? null : Math.max(-1, Math.min(1, guess));
}

interface Fit extends Start {
  readonly oblique: boolean;
  readonly sheet: FittedSheet;
  /** Half the sum of squared residuals, and what it costs to be oblique. */
  readonly cost: number;
  /** The same without what lines cost. */
  readonly outlineCost: number;
}

interface FitOptions {
  /** Whether the rulings run askew. */
  readonly oblique?: boolean;
  /** Located near the start. */
  readonly lines?: readonly LocatedLine[];
  /** How many times their noise lines may be off. */
  readonly slack?: number;
  /** Set where no side is seen: corners then are but roughly where they are said to be. */
  readonly alone?: Alone | null;
}

/** The best fit near a start. */
function fitFrom(
  evidence: SheetEvidence,
  { parameters: start, ruling }: Start,
  { oblique = false, lines = [], alone = null, slack = 1 }: FitOptions = {},
): Fit {
  const writeOutline = outlineResiduals(evidence, ruling, { oblique, alone });
  const outlineCount = countOutlineResiduals(evidence, start.length - PARAMETER.slopes);
  const residuals = (p: Float64Array, out: Float64Array): void => {
    const sheet = sheetOf(p);
    writeOutline(p, sheet, out);
    writeLineResiduals(lines, sheet, out, { first: outlineCount, alone: alone !== null, slack });
  };
  const { parameters, cost } = leastSquares(residuals, start, outlineCount + countLineResiduals(lines), ENOUGH);
  const sheet = sheetOf(parameters);
  const outline = new Float64Array(outlineCount);
  writeOutline(parameters, sheet, outline);
  const more = oblique ? OBLIQUE_COST : 0;
  const { photoWidth, photoHeight } = evidence;
  const longSide = Math.max(photoWidth, photoHeight);
  return {
    parameters,
    ruling,
    oblique,
    cost: cost + more,
    outlineCost: outline.reduce((sum, r) => sum + (r * r) / 2, more),
    sheet: {
      aspect: sheet.aspect,
      toPhoto: (u, v) => {
        const q = seenOnSheet(sheet, u, v);
        return { x: q.x * longSide + photoWidth / 2, y: q.y * longSide + photoHeight / 2 };
      },
    },
  };
}
