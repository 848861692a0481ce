import { placeOnQuad, polygonArea } from '../geometry/quad';
import { meanOver } from './lineProfile';
import { pageProbability, type PageSegmentation } from './pageNetwork';
import { positionOn, type QuadCandidate } from './quadCandidates';

/** What the network says of a candidate, each 0 to 1. */
export interface SegmentationAgreement {
  /** Jaccard index with its page. */
  readonly pageOverlap: number;
  readonly pageInside: number;
  /** How much of the sides it takes for the page's edge: of all, and of the weakest. */
  readonly pageEdgeMean: number;
  readonly pageEdgeLeast: number;
}

/** Samples across and down a candidate. */
const SAMPLES = 14;

/**
 * How well a candidate covers the network's page, and how much of its sides the network takes for the page's edge.
 * @param picture - size of the picture the candidate is in
 */
export function agreementWith(
  segmentation: PageSegmentation,
  { quad, sides }: QuadCandidate,
  picture: { readonly width: number; readonly height: number },
): SegmentationAgreement {
  let seen = 0;
  let page = 0;
  for (let j = 0; j < SAMPLES; j++) {
    for (let i = 0; i < SAMPLES; i++) {
      const share = pageProbability(segmentation, placeOnQuad(quad, (i + 0.5) / SAMPLES, (j + 0.5) / SAMPLES), picture);
      if (share === null) continue;
      seen++;
      page += share;
    }
  }
  const inside = seen === 0 ? 0 : page / seen;
  // areas in pixels of the segmentation; only what lies in the picture counts
  const pixels = (segmentation.width * segmentation.height) / (picture.width * picture.height);
  const area = polygonArea(quad) * (seen / SAMPLES ** 2) * pixels;
  const common = inside * area;
  const edges = sides.flatMap((side, s) => {
    if (side.line.border || side.segmented === null) return [];
    const mean = meanOver(side, side.segmented, positionOn(side, quad[s]!), positionOn(side, quad[(s + 1) % 4]!));
    return mean === null ? [] : [mean];
  });
  return {
    pageOverlap: common / Math.max(1, area + segmentation.pageArea - common),
    pageInside: inside,
    pageEdgeMean: edges.length === 0 ? 0 : edges.reduce((p, q) => p + q, 0) / edges.length,
    pageEdgeLeast: edges.length === 0 ? 0 : Math.min(...edges),
  };
}
