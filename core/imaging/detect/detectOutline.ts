import { ALL_STRAIGHT, bendAt, STRAIGHT, type Bends } from '../geometry/bentOutline';
import { scaleQuad, wholePicture, type Quad } from '../geometry/quad';
import { withWorkspace, type Workspace } from '../kernels/workspace';
import type { PixelImage } from '../raster/pixelImage';
import { locateSheet, type LocatedSheet } from './locateSheet';
import { measureCandidates, rankCandidates, type DetectEffort, type MeasuredQuad } from './measureCandidates';
import type { PageSegmentation } from './pageNetwork';
import { confidenceOf, isAnother } from './quadScorer';
import { readPicture } from './readPicture';
import { SCORER_WEIGHTS } from './scorerWeights';
import type { BentQuad } from './sideSearch';

/*
 * Where the paper is.
 * 1. The picture is shrunk and split into lightness and two opponent colours (readPicture.ts).
 * 2. A small network says, roughly, what is page and where its edge runs (pageNetwork.ts).
 * 3. Lines are proposed from edges at two scales, fine ones and ones that survive a blur that melts cloth and grain, and
 *    from the network's page; along every line a step edge is looked for: paper inside, something else outside. Every
 *    quadrilateral the lines can make is measured, against the picture and against the network, and scored by a small
 *    learned scorer (measureCandidates.ts); the best wins.
 * 4. Its sides are moved onto the true edge in the larger picture, to a fraction of a pixel, bending where the sheet bends.
 *    Where a side then shows gaps, other courses further away are looked for (searchSidesWidely.ts); where both neighbours
 *    of a side run on beyond it, it moves out to where they end (extendToFarEdge.ts). All of it is in locateSheet.ts.
 * 5. Where it is doubted still, its rivals are moved onto their edges, too, and the likeliest is taken.
 * 6. The outline, or the whole picture, is decided for (below).
 * Assumes one sheet that stands out from what is around it on at least three sides. Fails where two sheets of the same
 * paper lie edge to edge, and where the paper has no visible edge at all; confidence says so.
 */

/** For photos. More lines and candidates find more pages on patterned desks, and take their time: 230 ms a photo on one core as they are. */
export const PHOTO_EFFORT: DetectEffort = {
  fineLines: 32,
  coarseLines: 14,
  pageLines: 8,
  edgeMedians: 1.5,
  keptLines: 32,
  candidates: 220,
};
/** Below this confidence the guess is worse than none: the page more likely fills the picture, and nothing of it may be cut off. */
const WHOLE_PICTURE_BELOW = 0.1;
/** Overlap (Jaccard index) with the network's page from which on a pale guess of low confidence is kept all the same. */
const LIKE_THE_PAGE = 0.72;
/** Overlap with the network's page from which on a sheet of which two sides at least are in the picture is no block of print on a page that fills it. */
const THE_PAGE = 0.85;
/** Where the whole picture is as like the network's page, to so much, such a sheet may still be the print on a page that fills it. */
const OTHER_THAN_WHOLE = 0.1;
/** Share of the picture's rim at which the network sees page, below which its page lies within the picture: what fills a picture shows at 6 % of its rim at least. */
const HARDLY_ON_RIM = 0.03;
/** Overlap with such a page from which on the guess is kept: on 8 drawn desks of 8 it was nearer to the truth than the whole picture. */
const LIKE_A_PAGE_WITHIN = 0.6;
/** A guess below this confidence loses to the whole picture, too, where PAGE_ALL_ROUND says so. */
const DOUBTED_BELOW = 0.5;
/** Other outlines looked at where the best is doubted: each takes as long as the best. Two would miss one page of the 8 that this finds. */
const RIVALS = 3;
/** Share of the picture's rim at which the network sees page: a page shot from near by has no desk around it. */
const PAGE_ALL_ROUND = 0.1;
/**
 * The same where the guess is like the network's page and the whole picture is not: a page that the picture cuts shows at the
 * rim, too. Of 64 pages that fill their picture all with such a guess show at 30 % or more.
 */
const CUT_PAGE_ROUND = 0.28;
/** By how much the guess overlaps more with the network's page than the whole picture does, for that. */
const LIKER_THAN_WHOLE = 0.3;
/** And by how much it is paler than what is beside it: within a page that fills its picture a frame with tones in it is so by 0.3 at most. */
const FAR_PALER = 0.5;

/** Confidence at most of a page that runs out of the picture: where its hidden sides run is a guess that is right in 8 of 19, and its person is asked to look. */
const INCOMPLETE = 0.45;

export interface DetectedOutline {
  /** Corners in pixels of the picture given; they may lie outside it where the page runs out of frame. */
  readonly quad: Quad;
  /** How the sides leave their chords. */
  readonly bends: Bends;
  /** Chance that the outline is right (Jaccard index of 0.95 or more), 0 to 1. */
  readonly confidence: number;
}

/**
 * Finds the paper's outline in a photo.
 * @param image - RGB or RGBA, upright as to EXIF; any size
 * @returns the whole picture, with the low confidence, where no outline can be believed; null where nothing at all could be a side
 */
export const detectOutline = (image: PixelImage): DetectedOutline | null =>
  withWorkspace((ws) => {
    const { ranked, locate, network } = search(image, ws);
    return decide(likeliest(ranked, locate), network, image);
  });

/** Outlines proposed, beside the one found. */
const TARGETS = 6;

/**
 * The outline found and others that could be one, for a hand that corrects it.
 * @param image - as for detectOutline
 * @returns targets in pixels of the picture given, the outline found among them
 */
export const proposeOutlines = (image: PixelImage): { found: DetectedOutline | null; targets: Quad[] } =>
  withWorkspace((ws) => {
    const { ranked, locate, network } = search(image, ws);
    const best = likeliest(ranked, locate);
    // where the best is doubted a rival may have taken its place
    const others = ranked.slice(best !== null && chanceOf(best) >= DOUBTED_BELOW ? 1 : 0, TARGETS);
    const located = [best, ...others.map((candidate) => locate([candidate]))];
    return {
      found: decide(best, network, image),
      targets: located.flatMap((each) => (each === null ? [] : [each.quad])),
    };
  });

/** Moves the first of some candidates onto its edges; in the picture's own pixels. */
type Locate = (candidates: readonly MeasuredQuad[]) => LocatedSheet | null;

/** Chance that an outline is right, by what was measured along its sides alone. */
const chanceOf = ({ confidenceFeatures }: LocatedSheet): number => confidenceOf(confidenceFeatures);

/**
 * The best candidate on its edges; where that is doubted, the likeliest of it and its rivals. Scores are given before the
 * edges are looked at closely: of the 15 of 640 photos that are doubted, 8 have a likelier rival that is right or far
 * nearer, and 1 has one that is farther off.
 */
function likeliest(ranked: readonly MeasuredQuad[], locate: Locate): LocatedSheet | null {
  const best = locate(ranked);
  if (best === null || chanceOf(best) >= DOUBTED_BELOW) return best;
  const tried: MeasuredQuad[] = ranked.slice(0, 1);
  for (const candidate of ranked) {
    if (tried.length > RIVALS) break;
    if (tried.every(({ candidate: { quad } }) => isAnother(candidate.candidate.quad, quad))) tried.push(candidate);
  }
  return tried
    .slice(1)
    .map((rival) => locate([rival, ...ranked.filter((other) => other !== rival)]))
    .filter((found) => found !== null)
    .reduce((likelier, found) => (chanceOf(found) > chanceOf(likelier) ? found : likelier), best);
}

/** What the network sees of the page in the whole picture. */
interface NetworkView {
  /** Share of the picture that it takes for page, 0 to 1: how like its page the whole picture is. */
  readonly share: number;
  /** The same of the picture's rim. */
  readonly onRim: number;
}

/** Everything up to the choice: candidates, best first, and how to move the first of some onto its edges, in the picture's own pixels. */
function search(
  image: PixelImage,
  ws: Workspace,
): {
  ranked: MeasuredQuad[];
  locate: Locate;
  network: NetworkView;
} {
  const { larger, working, segmentation } = readPicture(image, ws);
  const scale = image.width / larger.width;
  const where = { picture: larger, factor: larger.width / working.raw.width, passes: 2, segmentation } as const;
  return {
    network: {
      share: segmentation.pageArea / (segmentation.width * segmentation.height),
      onRim: pageOnRim(segmentation),
    },
    ranked: rankCandidates(measureCandidates(working, { effort: PHOTO_EFFORT, segmentation }), SCORER_WEIGHTS),
    locate: (candidates) => {
      const located = locateSheet(candidates, where);
      return located === null ? null : { ...located, quad: scaleQuad(located.quad, scale) };
    },
  };
}

/** How much of the picture's rim the network takes for page, 0 to 1. */
function pageOnRim({ width, height, page }: PageSegmentation): number {
  let sum = 0;
  for (let x = 0; x < width; x++) sum += page[width + x]! + page[(height - 2) * width + x]!;
  for (let y = 0; y < height; y++) sum += page[y * width + 1]! + page[y * width + width - 2]!;
  return sum / (2 * (width + height));
}

/** Paper is nearly always paler than what it lies on; a block of print within a page that fills the picture is darker: a factor of 0.1 to 1. */
const trustIn = (polarity: number): number => Math.min(1, Math.max(0.1, (polarity + 0.2) / 0.4));

/** The outline to go on with, or the whole picture where that is the safer guess. */
function decide(
  found: LocatedSheet | null,
  { share, onRim }: NetworkView,
  { width, height }: PixelImage,
): DetectedOutline | null {
  if (found === null) return null;
  const byFeatures = chanceOf(found);
  // on white cloth no side is paler than what is beside it, and the network sees page beyond it: where both agree on a sheet, it is one
  const isThePage =
    (found.sidesOut <= 2 &&
      found.overlap >= THE_PAGE &&
      found.overlap - share >= OTHER_THAN_WHOLE &&
      byFeatures >= WHOLE_PICTURE_BELOW) ||
    (onRim < HARDLY_ON_RIM && found.overlap >= LIKE_A_PAGE_WITHIN);
  const chance = isThePage ? byFeatures : byFeatures * trustIn(found.polarity);
  const confidence = found.sidesOut > 0 ? Math.min(INCOMPLETE, chance) : chance;
  const unlikeThePage = found.overlap < LIKE_THE_PAGE;
  const isCutPage = !unlikeThePage && found.overlap - share >= LIKER_THAN_WHOLE && found.polarity >= FAR_PALER;
  const doubted = chance < DOUBTED_BELOW || (found.sidesOut > 1 && unlikeThePage);
  const fillsPicture =
    !isThePage &&
    ((chance < WHOLE_PICTURE_BELOW && (unlikeThePage || found.polarity < 0)) ||
      (doubted && onRim > (isCutPage ? CUT_PAGE_ROUND : PAGE_ALL_ROUND)));
  if (fillsPicture)
    return { quad: wholePicture(width, height), bends: ALL_STRAIGHT, confidence: Math.min(confidence, DOUBTED_BELOW) };
  return { ...withoutSlightBends(found), confidence };
}

/** A side that leaves its chord by less than this share is straight: that much is the noise of finding it. */
const SLIGHT_BEND = 0.003;

/** Four sides that all leave their chords by about as much, and all outwards or all inwards, are bent by the lens: so much is not the noise of finding them. */
const LENS_BEND = 0.001;
/** The least bent of them is by so much as bent as the most. */
const ALIKE = 0.4;

function isBentByLens(bends: Bends): boolean {
  const middles = bends.map((bend) => bendAt(bend, 0.5));
  const sizes = middles.map(Math.abs);
  const oneWay = middles.every((middle) => middle > 0) || middles.every((middle) => middle < 0);
  return oneWay && Math.max(...sizes) > LENS_BEND && Math.min(...sizes) > ALIKE * Math.max(...sizes);
}

const withoutSlightBends = ({ quad, bends }: BentQuad): BentQuad =>
  isBentByLens(bends)
    ? { quad, bends }
    : {
        quad,
        bends: bends.map((bend) =>
          bend.some((share) => Math.abs(share) > SLIGHT_BEND) ? bend : STRAIGHT,
        ) as unknown as Bends,
      };
