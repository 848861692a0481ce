import { distance } from '../geometry/point';
import { polygonArea } from '../geometry/quad';
import type { ColourPicture } from './colourPicture';
import { innerEdgesOf } from './innerEdges';
import type { LineProfile } from './lineProfile';
import type { PageSegmentation } from './pageNetwork';
import { samplePaper } from './paperInside';
import type { QuadCandidate } from './quadCandidates';
import { aspectMiss, cornerSkew } from './quadShape';
import { agreementWith, type SegmentationAgreement } from './segmentationAgreement';
import { measureSide, unseenOf, type StripColour } from './sideContrast';

/** What the scorer is told about a candidate, in this order; each roughly within -1 to 1. */
export const FEATURE_NAMES = [
  'stepMean',
  'stepLeast',
  'stepSecondLeast',
  'brighterMean',
  'brighterLeast',
  'contrastMean',
  'contrastLeast',
  'insideSpread',
  'insideLightness',
  'insideColour',
  'paperEvenness',
  'overrunMean',
  'overrunMost',
  'areaShare',
  'aspectMiss',
  'cornerSkew',
  'borderSides',
  'unseen',
  'interiorStep',
  'stretchLeast',
  'stretchThirdLeast',
  'stretchSixthLeast',
  'rimDiffers',
  'innerEdges',
  'innerEdgeMost',
] as const;

/** What the network adds where it was asked (SegmentationAgreement). */
export const SEGMENTATION_FEATURE_NAMES = ['pageOverlap', 'pageInside', 'pageEdgeMean', 'pageEdgeLeast'] as const;

/** Spread of the strips inside, in levels, that counts half. */
const HALF_SPREAD = 20;
/** Distance of the paper's colour from grey, in levels, that counts half. */
const HALF_COLOUR = 25;
/** Weight of lightness beside colour in the spread of the strips: light falls off across a page, its colour hardly. */
const LIGHTNESS_WEIGHT = 0.5;
/** Added to the picture's own range of lightness, levels, for pictures that have none. */
const LEAST_RANGE = 25;
/** The paper at the sides and in the middle differ by this at most, levels. */
const RIM_RANGE = 40;

const meanOf = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((p, q) => p + q, 0) / values.length;
const leastOf = (values: readonly number[]): number => (values.length === 0 ? 0 : Math.min(...values));
const rising = (values: readonly number[]): number[] => [...values].sort((p, q) => p - q);

/** The mean colour of strips, and how far they differ from it on average. */
function spreadOf(strips: readonly StripColour[]): { readonly mean: StripColour; readonly spread: number } {
  const mean = {
    l: meanOf(strips.map((p) => p.l)),
    a: meanOf(strips.map((p) => p.a)),
    b: meanOf(strips.map((p) => p.b)),
  };
  const spread = meanOf(strips.map((p) => Math.hypot((p.l - mean.l) * LIGHTNESS_WEIGHT, p.a - mean.a, p.b - mean.b)));
  return { mean, spread };
}

/**
 * Measures a candidate: how its sides look, how the strips inside and outside differ, whether edges run on past its
 * corners (a pattern's or a table's do, a sheet's do not), whether it is lit like paper, and whether its proportions are
 * a page's.
 * @param lines - all lines that were kept, for what runs through the candidate's inside
 * @param picture - the lightly blurred working picture
 * @param lightness - of the picture: its median and its ninth decile, levels
 * @param segmentation - what the network says, or null where it was not asked
 * @returns FEATURE_NAMES.length numbers, and SEGMENTATION_FEATURE_NAMES.length more where the network was asked
 */
export function measureQuad(
  candidate: QuadCandidate,
  lines: readonly LineProfile[],
  picture: ColourPicture,
  lightness: { readonly p50: number; readonly p90: number },
  segmentation: PageSegmentation | null,
): Float64Array {
  const { quad, sides } = candidate;
  const centre = { x: meanOf(quad.map((p) => p.x)), y: meanOf(quad.map((p) => p.y)) };
  const next = (s: number): QuadCandidate['quad'][number] => quad[(s + 1) % 4]!;
  const seen = sides.flatMap((side, s) => (side.line.border ? [] : [measureSide(side, quad[s]!, next(s), centre)]));
  const perimeter = quad.reduce((sum, p, s) => sum + distance(p, next(s)), 0);
  const steps = rising(seen.map((side) => side.step));
  const segments = rising(seen.flatMap((side) => side.segments));
  const brighter = seen.map((side) => side.brighter);
  const contrasts = seen.map((side) => side.contrast);
  const overruns = seen.flatMap((side) => side.overruns);
  const rim = spreadOf(seen.map((side) => side.inside));
  const paper = samplePaper(quad, picture);
  const inner = innerEdgesOf(candidate, lines);
  const features: Record<(typeof FEATURE_NAMES)[number], number> = {
    stepMean: meanOf(steps),
    stepLeast: steps[0] ?? 0,
    stepSecondLeast: steps[1] ?? 0,
    brighterMean: meanOf(brighter),
    brighterLeast: leastOf(brighter),
    contrastMean: meanOf(contrasts),
    contrastLeast: leastOf(contrasts),
    insideSpread: rim.spread / (rim.spread + HALF_SPREAD),
    insideLightness: (paper.lightness - lightness.p50) / (Math.abs(lightness.p90 - lightness.p50) + LEAST_RANGE),
    insideColour: paper.colour / (paper.colour + HALF_COLOUR),
    paperEvenness: paper.evenness,
    overrunMean: meanOf(overruns),
    overrunMost: overruns.length === 0 ? 0 : Math.max(...overruns),
    areaShare: Math.sqrt(polygonArea(quad) / (picture.width * picture.height)),
    aspectMiss: aspectMiss(quad, picture),
    cornerSkew: cornerSkew(quad),
    borderSides: (sides.length - seen.length) / 4,
    unseen: sides.reduce((sum, side, s) => sum + unseenOf(side, quad[s]!, next(s)), 0) / perimeter,
    interiorStep: paper.colourVariation,
    stretchLeast: segments[0] ?? 0,
    stretchThirdLeast: segments[2] ?? 0,
    stretchSixthLeast: segments[5] ?? 0,
    rimDiffers: Math.min(1, Math.abs(rim.mean.l - paper.lightness) / RIM_RANGE),
    innerEdges: inner.all,
    innerEdgeMost: inner.most,
  };
  return encodeFeatures(features, segmentation === null ? null : agreementWith(segmentation, candidate, picture));
}

/** The features in the order that the scorer's weights were trained in. */
const encodeFeatures = (
  features: Readonly<Record<(typeof FEATURE_NAMES)[number], number>>,
  agreement: SegmentationAgreement | null,
): Float64Array =>
  Float64Array.from([
    ...FEATURE_NAMES.map((name) => features[name]),
    ...(agreement === null ? [] : SEGMENTATION_FEATURE_NAMES.map((name) => agreement[name])),
  ]);

/** One of measureQuad's features, by its name; 0 where the network was not asked for it. */
export function featureOf(
  features: Float64Array,
  name: (typeof FEATURE_NAMES)[number] | (typeof SEGMENTATION_FEATURE_NAMES)[number],
): number {
  const at = (FEATURE_NAMES as readonly string[]).indexOf(name);
  return (
    features[at >= 0 ? at : FEATURE_NAMES.length + (SEGMENTATION_FEATURE_NAMES as readonly string[]).indexOf(name)] ?? 0
  );
}
