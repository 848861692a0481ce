import { distance } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import { FEATURE_NAMES, featureOf, SEGMENTATION_FEATURE_NAMES } from './quadFeatures';
import { CONFIDENCE_WEIGHTS } from './scorerWeights';

/**
 * How much a measured quadrilateral looks like the page; only differences between candidates of one picture matter.
 * Method: a multilayer perceptron with one hidden layer of tanh units, or the mean of several side by side, trained by
 * `bench/trainScorer.ts` with a listwise softmax loss (Cao et al., "Learning to rank", ICML 2007) on simulated photos.
 * @param features - from measureQuad
 * @param weights - for every hidden unit one weight a feature and one more, then an output weight for every hidden unit
 */
export function rankQuad(features: Float64Array, weights: readonly number[]): number {
  const n = features.length;
  const units = weights.length / (n + 2);
  const outputs = units * (n + 1);
  let score = 0;
  for (let unit = 0; unit < units; unit++) {
    const at = unit * (n + 1);
    let sum = weights[at + n]!;
    for (let i = 0; i < n; i++) sum += weights[at + i]! * features[i]!;
    score += weights[outputs + unit]! * Math.tanh(sum);
  }
  return score;
}

/** Overlap (Jaccard index) with the network's page below which a candidate loses score. */
const RIGHT_FROM = 0.88;
/** Score lost for each unit of overlap below that. On 374 pictures the candidate chosen is better by 0.01 or more in 10 and worse in 2 than without it; 5 to 20 differ little. */
const UNLIKE_THE_PAGE = 5;

/** What a candidate loses for covering another page than the network sees; nothing where it was not asked. */
export const unlikeThePage = (features: Float64Array): number =>
  features.length < FEATURE_NAMES.length + SEGMENTATION_FEATURE_NAMES.length
    ? 0
    : UNLIKE_THE_PAGE * Math.max(0, RIGHT_FROM - featureOf(features, 'pageOverlap'));

export interface RankedQuad {
  readonly quad: Quad;
  readonly score: number;
  readonly features: Float64Array;
}

/** What of the winner's features speaks for or against it, in the order that the confidence's weights were trained in. */
const CONFIDENCE_FEATURES = ['stepSecondLeast', 'contrastLeast', 'overrunMean', 'aspectMiss', 'borderSides'] as const;

/** Share of a side's positions from which on a step is seen all along it. */
const WHOLLY_SEEN = 0.98;
/** So much less than that speaks as loud as any gap can: 13 of 16 wrong outlines have a side of which 0.96 or less is seen, and 12 of 304 right ones. */
const GAP = 0.1;

/** What was found out when the winner's sides were moved onto their edges. */
export interface FoundSides {
  /** Least edge support of a side, 0 to 1. */
  readonly support: number;
  /** Mean distance its corners moved, as a share of the picture's long side. */
  readonly shift: number;
  /** Least share of a side's positions at which a step is seen; 1 where that was not asked. */
  readonly leastSeen: number;
}

/** Share of an outline's diagonal by which one of its corners is elsewhere in another outline; by less it is the same one. */
const ELSEWHERE = 0.06;

/** Whether an outline is another one than this, not the same a little moved. */
export const isAnother = (outline: Quad, than: Quad): boolean =>
  outline.some((p, i) => distance(p, than[i]!) > ELSEWHERE * distance(than[0], than[2]));

/** What speaks for and against the winner: its score, its lead over the best different candidate, its sides. */
export function confidenceFeatures(ranked: readonly RankedQuad[], { support, shift, leastSeen }: FoundSides): number[] {
  const best = ranked[0]!;
  const rival = ranked.find(({ quad }) => isAnother(quad, best.quad));
  const lead = rival === undefined ? 3 : Math.min(3, best.score - rival.score);
  return [
    1,
    best.score / 4,
    lead / 2,
    support,
    Math.min(1, shift * 20),
    ...CONFIDENCE_FEATURES.map((name) => featureOf(best.features, name)),
    ...best.features.slice(FEATURE_NAMES.length),
    Math.min(1, Math.max(0, WHOLLY_SEEN - leastSeen) / GAP),
  ];
}

/** Chance that the outline is right (Jaccard index at least 0.95), by logistic regression on confidenceFeatures. */
export function confidenceOf(features: readonly number[], weights: readonly number[] = CONFIDENCE_WEIGHTS): number {
  return 1 / (1 + Math.exp(-features.reduce((sum, f, i) => sum + f * weights[i]!, 0)));
}
