import { distance, lerpPoint } from '../geometry/point';
import { isConvexQuad, polygonArea, scaleQuad, wholePicture, type Quad } from '../geometry/quad';
import type { Point } from '../geometry/point';
import { fitLongSide } from '../raster/resizeByArea';
import type { PixelImage } from '../raster/pixelImage';
import { blurPlanes, halvePlanes, toColourPlanes, type ColourPlanes } from './colourPlanes';
import { completeOutline } from './completeOutline';
import { findEdgePoints, gradientField, type GradientField } from './edgePoints';
import { gatherEvidence, strongestStretch, type LineEvidence } from './lineEvidence';
import { borderLines, proposeLines, withoutTwins, type Line } from './lineProposals';
import { enumerateQuads, type QuadCandidate } from './quadCandidates';
import { FEATURE_NAMES, measureQuad } from './quadFeatures';
import { confidenceFeatures, confidenceOf, rankQuad } from './quadScorer';
import { refineOutline } from './refineOutline';

/*
 * Where the paper is.
 * 1. The picture is shrunk to 512 px and split into lightness and two opponent colours.
 * 2. Lines are proposed from edges at two scales: fine ones, and ones that survive a blur that melts cloth and grain.
 * 3. Along every line a step edge is looked for: paper inside, something else outside.
 * 4. Every quadrilateral the lines can make is measured and scored by a small learned scorer; the best wins.
 * 5. Its sides are moved onto the true edge in the larger picture, to a fraction of a pixel, bowing where the sheet bows.
 * Assumes one sheet that stands out from what is around it on at least three sides. Fails where two sheets of the same
 * paper lie edge to edge, and where the paper has no visible edge at all; confidence says so.
 */

export const PROPOSAL_LONG_SIDE_PX = 512;
export const REFINE_LONG_SIDE_PX = 1400;

/** How hard to look. */
export interface DetectEffort {
  /** Lines proposed from the picture as it is, from its blurred copy, and from the borders of its busy areas (0 leaves those out). */
  readonly fineLines: number;
  readonly coarseLines: number;
  readonly busyLines: number;
  /** The blurred copy is made small instead of blurred: four times faster, lines half as exact. */
  readonly coarseHalved: boolean;
  /** How far above the picture's median gradient a fine edge must rise. */
  readonly edgeMedians: number;
  /** Lines kept of all proposed, and quadrilaterals measured of all they make. */
  readonly believedLines: number;
  readonly candidates: number;
}

export const PHOTO_EFFORT: DetectEffort = { fineLines: 60, coarseLines: 30, busyLines: 16, coarseHalved: false, edgeMedians: 1.3, believedLines: 34, candidates: 160 };
const PALENESS = FEATURE_NAMES.indexOf('brighterMean');
/** Below this confidence the guess is worse than none: the page more likely fills the picture, and nothing of it may be cut off. */
const WHOLE_PICTURE_BELOW = 0.1;

export interface DetectedOutline {
  /** Corners in pixels of the picture given; they may lie outside it where the page runs out of frame. */
  readonly quad: Quad;
  /** The whole outline clockwise from the first corner, or null where all sides are straight. */
  readonly boundary: readonly Point[] | null;
  /** Chance that the outline is right (Jaccard index of 0.95 or more), 0 to 1. */
  readonly confidence: number;
}

/** A candidate with its measurements, for training the scorer and for debug pictures. */
export interface MeasuredQuad {
  readonly candidate: QuadCandidate;
  readonly features: Float64Array;
  readonly score: number;
}

/**
 * Finds the paper's outline in a photo.
 * @param image - RGB or RGBA, upright as to EXIF; any size
 * @returns the whole picture, with the low confidence, where no outline can be believed; null where nothing at all could be a side
 */
export function detectOutline(image: PixelImage): DetectedOutline | null {
  const larger = fitLongSide(image, REFINE_LONG_SIDE_PX);
  const working = fitLongSide(larger, PROPOSAL_LONG_SIDE_PX);
  const found = locateSheet(readPlanes(larger).fine, measureCandidates(readPlanes(working), PHOTO_EFFORT), larger.width / working.width);
  if (found === null) return null;
  const scale = image.width / larger.width;
  const confidence = confidenceOf(found.confidenceFeatures) * trustInPaleness(found.paleness);
  if (confidence < WHOLE_PICTURE_BELOW) return { quad: wholePicture(image.width, image.height), boundary: null, confidence };
  return { quad: scaleQuad(found.quad, scale), boundary: found.sides === null ? null : curvedBoundary(found.sides, scale), confidence };
}

/** A picture's planes as they are and lightly blurred. */
export interface PicturePlanes {
  readonly raw: ColourPlanes;
  readonly fine: ColourPlanes;
}

export function readPlanes(image: PixelImage): PicturePlanes {
  const raw = toColourPlanes(image);
  return { raw, fine: blurPlanes(raw, 1, 1) };
}

export interface LocatedSheet {
  readonly quad: Quad;
  readonly sides: readonly (readonly Point[])[] | null;
  readonly confidenceFeatures: readonly number[];
  /** How much paler than its surroundings the sheet is along its sides, -1 to 1. */
  readonly paleness: number;
}

/** Paper is nearly always paler than what it lies on; a block of print within a page that fills the picture is darker. */
const trustInPaleness = (paleness: number): number => Math.min(1, Math.max(0.1, (paleness + 0.2) / 0.4));

/**
 * Takes the best candidate and moves its sides onto the true edge.
 * @param planes - the lightly blurred picture to refine in
 * @param factor - its size over that of the picture measured
 * @param passes - 2 looks again from nearby, for the last fraction of a pixel
 */
export function locateSheet(planes: ColourPlanes, measured: readonly MeasuredQuad[], factor: number, passes: 1 | 2 = 2): LocatedSheet | null {
  const best = measured[0];
  if (best === undefined) return null;
  const longSide = Math.max(planes.width, planes.height);
  const fixed = best.candidate.sides.map((side) => side.line.border);
  const rough = scaleQuad(best.candidate.quad, factor);
  const coarse = refineOutline(planes, rough, 0.014 * longSide, fixed);
  const fine = passes === 2 && usable(coarse.quad, planes) ? refineOutline(planes, coarse.quad, 0.006 * longSide, fixed) : coarse;
  const refined = usable(fine.quad, planes) ? fine : usable(coarse.quad, planes) ? coarse : null;
  const visible = refined?.quad ?? rough;
  const shift = visible.reduce((sum, p, i) => sum + distance(p, rough[i]!), 0) / 4 / longSide;
  const ranked = measured.map((m) => ({ quad: m.candidate.quad, score: m.score, features: m.features }));
  const completed = fixed.filter(Boolean).length === 1 ? completeOutline(visible, fixed.indexOf(true), planes.width, planes.height) : null;
  return { quad: completed ?? visible, sides: completed === null ? (refined?.sides ?? null) : null, confidenceFeatures: confidenceFeatures(ranked, refined?.leastSupport ?? 0, shift), paleness: best.features[PALENESS]! };
}

/**
 * All candidates of a working picture with features and score, best first.
 * @param picture - at most PROPOSAL_LONG_SIDE_PX on its long side
 */
export function measureCandidates({ raw, fine }: PicturePlanes, effort: DetectEffort): MeasuredQuad[] {
  const { width, height } = raw;
  const fineGradient = gradientField(fine);
  const lines = [...proposeLines(findEdgePoints(fineGradient, 0.9, effort.edgeMedians), width, height, effort.fineLines), ...coarseLinesOf(raw, effort)];
  if (effort.busyLines > 0) lines.push(...proposeLines(findEdgePoints(gradientField(toActivity(fineGradient)), 0.4), width, height, effort.busyLines));
  const read = (some: readonly Line[]): LineEvidence[] => some.map((line) => gatherEvidence(line, fine, fineGradient)).filter((e): e is LineEvidence => e !== null);
  const evidence = read(withoutTwins(lines, width, height))
    .sort((p, q) => strongestStretch(q) - strongestStretch(p))
    .slice(0, effort.believedLines);
  evidence.push(...read(borderLines(width, height)));
  const lightness = lightnessLevels(fine);
  return enumerateQuads(evidence, width, height, effort.candidates)
    .map((candidate) => {
      const features = measureQuad(candidate, evidence, fine, lightness);
      return { candidate, features, score: rankQuad(features) };
    })
    .sort((p, q) => q.score - p.score);
}

/** Lines that survive a blur which melts cloth and grain. */
function coarseLinesOf(planes: ColourPlanes, { coarseLines, coarseHalved }: DetectEffort): Line[] {
  const { width, height } = planes;
  if (!coarseHalved) return proposeLines(findEdgePoints(gradientField(blurPlanes(planes, 2, 3)), 0.5), width, height, coarseLines);
  const half = blurPlanes(halvePlanes(planes), 1, 1);
  return proposeLines(findEdgePoints(gradientField(half), 0.5), half.width, half.height, coarseLines).map((line) => ({ ...line, rho: 2 * line.rho }));
}

/** How busy the picture is around each pixel: cloth and grain are, paper between its lines of writing is not. */
function toActivity({ width, height, magnitude }: GradientField): ColourPlanes {
  const busy = magnitude.map((m) => Math.min(40, 4 * m));
  const none = new Float32Array(busy.length);
  const { l } = blurPlanes({ width, height, l: busy, a: none, b: none }, 4, 3);
  return { width, height, l, a: none, b: none };
}

function lightnessLevels({ l }: ColourPlanes): { p50: number; p90: number } {
  const sample: number[] = [];
  for (let i = 0; i < l.length; i += 37) sample.push(l[i]!);
  sample.sort((p, q) => p - q);
  return { p50: sample[Math.floor(sample.length * 0.5)]!, p90: sample[Math.floor(sample.length * 0.9)]! };
}

const usable = (quad: Quad, { width, height }: ColourPlanes): boolean => isConvexQuad(quad) && polygonArea(quad) > 0.03 * width * height;

/** Joins the sides; null where none of them leaves its chord by more than half a percent of its length. */
function curvedBoundary(sides: readonly (readonly Point[])[], scale: number): Point[] | null {
  const bowed = sides.some((side) => {
    const a = side[0]!;
    const b = side.at(-1)!;
    const length = Math.hypot(b.x - a.x, b.y - a.y);
    return side.some((p, i) => {
      const q = lerpPoint(a, b, i / (side.length - 1));
      return Math.hypot(p.x - q.x, p.y - q.y) > 0.005 * length && Math.abs((p.x - a.x) * (b.y - a.y) - (p.y - a.y) * (b.x - a.x)) / length > 0.005 * length;
    });
  });
  return bowed ? sides.flatMap((side) => side.slice(0, -1).map((p) => ({ x: p.x * scale, y: p.y * scale }))) : null;
}
