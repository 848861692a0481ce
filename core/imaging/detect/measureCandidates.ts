import { normalOf } from '../geometry/point';
import { withWorkspace } from '../kernels/workspace';
import { lightnessQuantiles, smoothPicture, type ColourPicture } from './colourPicture';
import { findEdgePoints, gradientField } from './edgePoints';
import { borderLines, mergeDuplicateLines, proposeLines, type Line } from './lineProposals';
import { bestSegment, readLineProfile, type LineProfile } from './lineProfile';
import { pictureOfPage, type PageSegmentation } from './pageNetwork';
import { sidesOfPage } from './pageQuad';
import { enumerateQuads, type QuadCandidate } from './quadCandidates';
import { measureQuad } from './quadFeatures';
import { rankQuad, unlikeThePage } from './quadScorer';
import type { WorkingPicture } from './readPicture';

/** How hard to look. */
export interface DetectEffort {
  /** Lines proposed from the picture as it is, from its blurred copy, and from the network's page. */
  readonly fineLines: number;
  readonly coarseLines: number;
  readonly pageLines: number;
  /** How far above the picture's median gradient a fine edge must rise. */
  readonly edgeMedians: number;
  /** Lines kept of all proposed, and quadrilaterals measured of all they make. */
  readonly keptLines: number;
  readonly candidates: number;
}

/** A candidate with its measurements, for training the scorer and for debug pictures. */
export interface MeasuredQuad {
  readonly candidate: QuadCandidate;
  readonly features: Float64Array;
  readonly score: number;
}

/** Least gradient of an edge in the picture as it is, levels a pixel: lower, and grain makes lines. */
const FINE_FLOOR = 0.9;
/** The same in its blurred copy. */
const COARSE_FLOOR = 0.5;
/** The same in the network's page. */
const PAGE_FLOOR = 1.5;
/** Every so manieth pixel is read for the picture's lightness. */
const LIGHTNESS_STEP = 97;

/**
 * All candidates of a working picture with their features.
 * @param segmentation - what the network says of the picture, or null to do without
 */
export const measureCandidates = (
  { raw, fine, half }: WorkingPicture,
  { effort, segmentation = null }: { readonly effort: DetectEffort; readonly segmentation?: PageSegmentation | null },
): Omit<MeasuredQuad, 'score'>[] =>
  withWorkspace((ws) => {
    const { width, height } = raw;
    const fineGradient = gradientField(fine, ws);
    const finePoints = findEdgePoints(fineGradient, { floor: FINE_FLOOR, medians: effort.edgeMedians }, ws);
    const lines = [...proposeLines(finePoints, width, height, effort.fineLines), ...coarseLinesOf(half, effort)];
    const fromPage = segmentation === null ? [] : pageLinesOf(segmentation, raw, effort.pageLines);
    const read = (some: readonly Line[]): LineProfile[] =>
      some
        .map((line) => readLineProfile(line, fine, fineGradient, segmentation))
        .filter((e): e is LineProfile => e !== null);
    const profiles = read(mergeDuplicateLines(lines, width, height))
      .sort((p, q) => bestSegment(q) - bestSegment(p))
      .slice(0, effort.keptLines);
    profiles.push(...read(fromPage)); // believed without being seen: a faint edge is what the network is for
    profiles.push(...read(borderLines(width, height)));
    const [p50, p90] = lightnessQuantiles(fine, LIGHTNESS_STEP, [0.5, 0.9]);
    const lightness = { p50: p50!, p90: p90! };
    return enumerateQuads(profiles, raw, effort.candidates, segmentation).map((candidate) => ({
      candidate,
      features: measureQuad(candidate, profiles, fine, lightness, segmentation),
    }));
  });

/** The candidates with their scores, best first. */
export const rankCandidates = (
  measured: readonly Omit<MeasuredQuad, 'score'>[],
  weights: readonly number[],
): MeasuredQuad[] =>
  measured
    .map((m) => ({ ...m, score: rankQuad(m.features, weights) - unlikeThePage(m.features) }))
    .sort((p, q) => q.score - p.score);

/** Lines that survive a blur which melts cloth and grain. */
const coarseLinesOf = (half: ColourPicture, { coarseLines }: DetectEffort): Line[] =>
  withWorkspace((ws) => {
    const points = findEdgePoints(gradientField(smoothPicture(half, ws), ws), { floor: COARSE_FLOOR }, ws);
    return proposeLines(points, half.width, half.height, coarseLines).map((line) => ({ ...line, rho: 2 * line.rho }));
  });

/** Levels of the network's page as a picture in which its edges are looked for. */
const PAGE_LEVELS = 60;

/** The lines along which the network's page ends. */
function pageLinesOf(segmentation: PageSegmentation, { width, height }: ColourPicture, most: number): Line[] {
  const scaleX = width / segmentation.width;
  const scaleY = height / segmentation.height;
  const sides = sidesOfPage(segmentation).map(([from, to]) => {
    const { nx, ny } = normalOf(from, to);
    return { nx, ny, rho: from.x * nx + from.y * ny };
  });
  const others = withWorkspace((ws) => {
    const blurred = smoothPicture(smoothPicture(pictureOfPage(segmentation, PAGE_LEVELS, ws), ws), ws);
    const points = findEdgePoints(gradientField(blurred, ws), { floor: PAGE_FLOOR }, ws);
    return proposeLines(points, segmentation.width, segmentation.height, most);
  });
  return [...sides, ...others].map(({ nx, ny, rho }) => {
    // x·nx + y·ny = rho on the segmentation, whose pixels need not be square on the picture
    const norm = Math.hypot(nx / scaleX, ny / scaleY);
    return { nx: nx / scaleX / norm, ny: ny / scaleY / norm, rho: rho / norm, border: false };
  });
}
