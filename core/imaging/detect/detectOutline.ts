import { ALL_STRAIGHT, mostBent, STRAIGHT, type Bends } from '../geometry/bentOutline';
import { distance } from '../geometry/point';
import { isConvexQuad, mapQuad, polygonArea, scaleQuad, wholePicture, type Quad } from '../geometry/quad';
import { withWorkspace, type Workspace } from '../kernels/workspace';
import { fitLongSide } from '../raster/resizeByArea';
import type { PixelImage } from '../raster/pixelImage';
import {
  brightenPictureInto,
  colourless,
  halvePicture,
  lightnessQuantiles,
  smoothPicture,
  toColourPicture,
  toSmallColourPicture,
  type ColourPicture,
} from './colourPicture';
import { completeOutline } from './completeOutline';
import { extendSides } from './extendSides';
import { findEdgePoints, gradientField } from './edgePoints';
import { gatherEvidence, strongestStretch, type LineEvidence } from './lineEvidence';
import { borderLines, proposeLines, withoutTwins, type Line } from './lineProposals';
import { enumerateQuads, type QuadCandidate } from './quadCandidates';
import { mapPage, type PageMap } from './pageNetwork';
import { sidesOfPage } from './pageQuad';
import { featureOf, measureQuad } from './quadFeatures';
import { confidenceFeatures, confidenceOf, rankQuad } from './quadScorer';
import { reconsiderSides } from './reconsiderSides';
import { refineOutline, type RefinedOutline } from './refineOutline';
import { SCORER_WEIGHTS } from './scorerWeights';

/*
 * Where the paper is.
 * 1. The picture is shrunk and split into lightness and two opponent colours.
 * 2. A small network says, roughly, what is page and where its edge runs (pageNetwork.ts).
 * 3. Lines are proposed from edges at two scales, fine ones and ones that survive a blur that melts cloth and grain, and
 *    from the network's page.
 * 4. Along every line a step edge is looked for: paper inside, something else outside.
 * 5. Every quadrilateral the lines can make is measured, against the picture and against the network, and scored by a
 *    small learned scorer; the best wins.
 * 6. Its sides are moved onto the true edge in the larger picture, to a fraction of a pixel, bending where the sheet bends.
 * 7. Where a side then shows gaps, other courses further away are looked for (reconsiderSides.ts).
 * 8. Where both neighbours of a side run on beyond it, it moves out to where they end (extendSides.ts).
 * Assumes one sheet that stands out from what is around it on at least three sides. Fails where two sheets of the same
 * paper lie edge to edge, and where the paper has no visible edge at all; confidence says so.
 */

const REFINE_LONG_SIDE_PX = 1024;
const WORKING_LONG_SIDE_PX = REFINE_LONG_SIDE_PX / 2;

/** How hard to look. */
export interface DetectEffort {
  /** Lines proposed from the picture as it is, from its blurred copy, and from the network's page. */
  readonly fineLines: number;
  readonly coarseLines: number;
  readonly pageLines: number;
  /** How far above the picture's median gradient a fine edge must rise. */
  readonly edgeMedians: number;
  /** Lines kept of all proposed, and quadrilaterals measured of all they make. */
  readonly believedLines: number;
  readonly candidates: number;
}

export const PHOTO_EFFORT: DetectEffort = {
  fineLines: 32,
  coarseLines: 14,
  pageLines: 8,
  edgeMedians: 1.5,
  believedLines: 32,
  candidates: 220,
};
/** Below this confidence the guess is worse than none: the page more likely fills the picture, and nothing of it may be cut off. */
const WHOLE_PICTURE_BELOW = 0.1;
/** Unless it is pale and overlaps with the network's page by this much. */
const LIKE_THE_PAGE = 0.75;
/** A doubted guess loses to the whole picture, too, where the network sees page at this share of the picture's rim: a page shot from near by has no desk around it. */
const DOUBTED_BELOW = 0.5;
const PAGE_ALL_ROUND = 0.1;

/** A page that runs out of the picture on two sides is never sure to be all there: its person is asked to look. */
const INCOMPLETE = 0.7;
/** Where a side's step is seen at less than this share of its places, the outline is right three times in four at best. */
const GAPPED_BELOW = 0.93;
const GAPPED = 0.75;

export interface DetectedOutline {
  /** Corners in pixels of the picture given; they may lie outside it where the page runs out of frame. */
  readonly quad: Quad;
  /** How the sides leave their chords. */
  readonly bends: Bends;
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
export const detectOutline = (image: PixelImage): DetectedOutline | null =>
  withWorkspace((ws) => {
    const { ranked, locate, onRim } = search(image, ws);
    return outlineFrom(locate(ranked), onRim, image);
  });

/** Runners-up to stick to, beside the outline itself. */
const TARGETS = 6;

/**
 * The outline found and others that could be one, for a hand that corrects it.
 * @param image - as for detectOutline
 * @returns targets in pixels of the picture given, the outline found among them
 */
export const proposeOutlines = (image: PixelImage): { found: DetectedOutline | null; targets: Quad[] } =>
  withWorkspace((ws) => {
    const { ranked, locate, onRim } = search(image, ws);
    const best = locate(ranked);
    const others = ranked.slice(1, TARGETS).map((candidate) => locate([candidate]));
    return {
      found: outlineFrom(best, onRim, image),
      targets: [best, ...others].flatMap((located) => (located === null ? [] : [located.quad])),
    };
  });

/** Everything up to the choice: candidates, best first, and how to move the first of some onto its edges, in the picture's own pixels. */
function search(
  image: PixelImage,
  ws: Workspace,
): {
  ranked: MeasuredQuad[];
  locate: (candidates: readonly MeasuredQuad[]) => LocatedSheet | null;
  onRim: number;
} {
  const { larger, working, map } = readPicture(image, ws);
  const scale = image.width / larger.width;
  return {
    onRim: pageOnRim(map),
    ranked: rankCandidates(measureCandidates(working, { effort: PHOTO_EFFORT, map }), SCORER_WEIGHTS),
    locate: (candidates) => {
      const located = locateSheet(larger, candidates, larger.width / working.raw.width, 2, map);
      return located === null ? null : { ...located, quad: scaleQuad(located.quad, scale) };
    },
  };
}

/** How much of the picture's rim the network takes for page, 0 to 1. */
function pageOnRim({ width, height, page }: PageMap): number {
  let sum = 0;
  for (let x = 0; x < width; x++) sum += page[width + x]! + page[(height - 2) * width + x]!;
  for (let y = 0; y < height; y++) sum += page[y * width + 1]! + page[y * width + width - 2]!;
  return sum / (2 * (width + height));
}

/** The outline to go on with, or the whole picture where that is the safer guess. */
function outlineFrom(found: LocatedSheet | null, onRim: number, { width, height }: PixelImage): DetectedOutline | null {
  if (found === null) return null;
  const confidence = Math.min(
    found.sidesOut > 1 ? INCOMPLETE : 1,
    found.leastSeen < GAPPED_BELOW ? GAPPED : 1,
    confidenceOf(found.confidenceFeatures) * trustInPaleness(found.paleness),
  );
  const unlike = found.overlap < LIKE_THE_PAGE;
  const doubted = confidence < DOUBTED_BELOW || (found.sidesOut > 1 && unlike);
  const fillsPicture =
    (confidence < WHOLE_PICTURE_BELOW && (unlike || found.paleness < 0)) || (doubted && onRim > PAGE_ALL_ROUND);
  if (fillsPicture)
    return { quad: wholePicture(width, height), bends: ALL_STRAIGHT, confidence: Math.min(confidence, DOUBTED_BELOW) };
  return { quad: found.quad, bends: withoutTrifles(found.bends), confidence };
}

/** A picture as it is, lightly blurred, and smaller. */
export interface WorkingPicture {
  readonly raw: ColourPicture;
  readonly fine: ColourPicture;
  /** At half the size. */
  readonly half: ColourPicture;
}

export interface PictureToSearch {
  /** What the winner is refined in. */
  readonly larger: ColourPicture;
  /** What candidates are measured in. */
  readonly working: WorkingPicture;
  readonly map: PageMap;
}

/** Makes the picture small, twice over, and asks the network. */
export function readPicture(image: PixelImage, ws: Workspace): PictureToSearch {
  const longSide = Math.max(image.width, image.height);
  const larger = brightenPictureInto(
    longSide >= 2 * REFINE_LONG_SIDE_PX
      ? toSmallColourPicture(image, REFINE_LONG_SIDE_PX, ws)
      : toColourPicture(fitLongSide(image, REFINE_LONG_SIDE_PX), ws),
  );
  const raw =
    longSide >= REFINE_LONG_SIDE_PX
      ? halvePicture(larger, ws)
      : brightenPictureInto(toColourPicture(fitLongSide(image, WORKING_LONG_SIDE_PX), ws));
  const half = halvePicture(raw, ws);
  return { larger, working: { raw, fine: smoothPicture(raw, ws), half }, map: mapPage(half) };
}

export interface LocatedSheet {
  readonly quad: Quad;
  readonly bends: Bends;
  /** How many sides lie on the picture's border. */
  readonly sidesOut: number;
  readonly confidenceFeatures: readonly number[];
  /** How much paler than its surroundings the sheet is along its sides, -1 to 1. */
  readonly paleness: number;
  /** Least share of a side's places at which a step is seen; 1 where that was not asked. */
  readonly leastSeen: number;
  /** Jaccard index with the network's page; 0 where it was not asked. */
  readonly overlap: number;
}

/** Paper is nearly always paler than what it lies on; a block of print within a page that fills the picture is darker. */
const trustInPaleness = (paleness: number): number => Math.min(1, Math.max(0.1, (paleness + 0.2) / 0.4));

/**
 * Takes the best candidate and moves its sides onto the true edge.
 * @param picture - to refine in, in pixels of its own; so is what comes back
 * @param measured - candidates, best first; the others speak for the confidence only
 * @param factor - its size over that of the picture measured
 * @param passes - 2 looks again from nearby, for the last fraction of a pixel
 * @param map - what the network says: where its page bends, the sides are looked for along that bend too
 */
export function locateSheet(
  picture: ColourPicture,
  measured: readonly MeasuredQuad[],
  factor: number,
  passes: 1 | 2 = 2,
  map: PageMap | null = null,
): LocatedSheet | null {
  const best = measured[0];
  if (best === undefined) return null;
  const longSide = Math.max(picture.width, picture.height);
  const fixed = best.candidate.sides.map((side) => side.line.border);
  const paleness = featureOf(best.features, 'brighterMean');
  const rough = scaleQuad(best.candidate.quad, factor);
  const refineFrom = (quad: Quad, bends: Bends): RefinedOutline | null => {
    const coarse = refineOutline(picture, quad, bends, 0.02 * longSide, fixed, paleness, map);
    const fine =
      passes === 2 && usable(coarse.quad, picture)
        ? refineOutline(picture, coarse.quad, coarse.bends, 0.006 * longSide, fixed, paleness, map)
        : coarse;
    return usable(fine.quad, picture) ? fine : usable(coarse.quad, picture) ? coarse : null;
  };
  const straight = refineFrom(rough, ALL_STRAIGHT);
  const bent = map === null ? null : bentBy(map, rough, picture, fixed);
  const along = bent === null ? null : refineFrom(bent.quad, bent.bends);
  const first = along !== null && along.leastSupport > (straight?.leastSupport ?? 0) ? along : straight;
  const again = first === null || map === null ? null : reconsiderSides(picture, first, fixed, paleness, map);
  const refined = again === null || map === null ? first : extendSides(picture, again.outline, fixed, paleness, map);
  const visible = refined?.quad ?? rough;
  const shift = visible.reduce((sum, p, i) => sum + distance(p, rough[i]!), 0) / 4 / longSide;
  const ranked = measured.map((m) => ({ quad: m.candidate.quad, score: m.score, features: m.features }));
  const sidesOut = fixed.filter(Boolean).length;
  const hidden = fixed.indexOf(true);
  const completed = sidesOut === 1 ? completeOutline(visible, hidden, picture.width, picture.height) : null;
  const bends = refined?.bends ?? ALL_STRAIGHT;
  // completed, the hidden side's course is unknown, and its neighbours are longer than they were seen
  return {
    quad: completed ?? visible,
    bends:
      completed === null
        ? bends
        : (bends.map((bend, s) => (s === (hidden + 2) % 4 ? bend : STRAIGHT)) as unknown as Bends),
    sidesOut,
    confidenceFeatures: confidenceFeatures(ranked, refined?.leastSupport ?? 0, shift),
    paleness,
    leastSeen: again?.leastSeen ?? 1,
    overlap: featureOf(best.features, 'pageOverlap'),
  };
}

/** A page of the network that bends by less than this share of a side may as well be straight. */
const BENT_FROM = 0.016;
/** How far from the candidate the network's edge is looked for, px of the map. */
const MAP_REACH_PX = 9;

/** The network's page as a picture, so pale where it is sure. */
const pictureOfMap = ({ width, height, page }: PageMap, sure: number, ws: Workspace): ColourPicture =>
  colourless(width, height, (at) => sure * page[at]!, ws);

/** The candidate's sides moved onto the edge of the network's page, where that bends; in the picture's pixels. */
function bentBy(
  map: PageMap,
  rough: Quad,
  { width, height }: ColourPicture,
  fixed: readonly boolean[],
): RefinedOutline | null {
  // the map's pixels are square on the picture to a few percent: bends, being shares, survive that
  const toMap = mapQuad(rough, (p) => ({ x: (p.x * map.width) / width, y: (p.y * map.height) / height }));
  const found = withWorkspace((ws) =>
    refineOutline(pictureOfMap(map, 200, ws), toMap, ALL_STRAIGHT, MAP_REACH_PX, fixed),
  );
  if (!usable(found.quad, map) || mostBent(found.bends) < BENT_FROM) return null;
  return {
    ...found,
    quad: mapQuad(found.quad, (p) => ({ x: (p.x * width) / map.width, y: (p.y * height) / map.height })),
  };
}

/**
 * All candidates of a working picture with their features.
 * @param map - what the network says of the picture, or null to do without
 */
export const measureCandidates = (
  { raw, fine, half }: WorkingPicture,
  { effort, map = null }: { readonly effort: DetectEffort; readonly map?: PageMap | null },
): Omit<MeasuredQuad, 'score'>[] =>
  withWorkspace((ws) => {
    const { width, height } = raw;
    const fineGradient = gradientField(fine, ws);
    const finePoints = findEdgePoints(fineGradient, { floor: 0.9, medians: effort.edgeMedians }, ws);
    const lines = [...proposeLines(finePoints, width, height, effort.fineLines), ...coarseLinesOf(half, effort)];
    const mapped = map === null ? [] : pageLinesOf(map, width, height, effort.pageLines);
    const read = (some: readonly Line[]): LineEvidence[] =>
      some.map((line) => gatherEvidence(line, fine, fineGradient, map)).filter((e): e is LineEvidence => e !== null);
    const evidence = read(withoutTwins(lines, width, height))
      .sort((p, q) => strongestStretch(q) - strongestStretch(p))
      .slice(0, effort.believedLines);
    evidence.push(...read(mapped)); // believed without being seen: a faint edge is what the network is for
    evidence.push(...read(borderLines(width, height)));
    const [p50, p90] = lightnessQuantiles(fine, 97, [0.5, 0.9]);
    const lightness = { p50: p50!, p90: p90! };
    return enumerateQuads(evidence, width, height, effort.candidates, map).map((candidate) => ({
      candidate,
      features: measureQuad(candidate, evidence, fine, lightness, map),
    }));
  });

/** The candidates with their scores, best first. */
export const rankCandidates = (
  measured: readonly Omit<MeasuredQuad, 'score'>[],
  weights: readonly number[],
): MeasuredQuad[] =>
  measured.map((m) => ({ ...m, score: rankQuad(m.features, weights) })).sort((p, q) => q.score - p.score);

/** Lines that survive a blur which melts cloth and grain. */
const coarseLinesOf = (half: ColourPicture, { coarseLines }: DetectEffort): Line[] =>
  withWorkspace((ws) => {
    const points = findEdgePoints(gradientField(smoothPicture(half, ws), ws), { floor: 0.5 }, ws);
    return proposeLines(points, half.width, half.height, coarseLines).map((line) => ({ ...line, rho: 2 * line.rho }));
  });

/** The lines along which the network's page ends. */
function pageLinesOf(map: PageMap, width: number, height: number, most: number): Line[] {
  const scaleX = width / map.width;
  const scaleY = height / map.height;
  const sides = sidesOfPage(map).map(([from, to]) => {
    const length = Math.hypot(to.x - from.x, to.y - from.y);
    const nx = -(to.y - from.y) / length;
    const ny = (to.x - from.x) / length;
    return { nx, ny, rho: from.x * nx + from.y * ny };
  });
  const others = withWorkspace((ws) => {
    const blurred = smoothPicture(smoothPicture(pictureOfMap(map, 60, ws), ws), ws);
    const points = findEdgePoints(gradientField(blurred, ws), { floor: 1.5 }, ws);
    return proposeLines(points, map.width, map.height, most);
  });
  return [...sides, ...others].map(({ nx, ny, rho }) => {
    // x·nx + y·ny = rho on the map; the map's pixels need not be square on the picture
    const norm = Math.hypot(nx / scaleX, ny / scaleY);
    return { nx: nx / scaleX / norm, ny: ny / scaleY / norm, rho: rho / norm, border: false };
  });
}

const usable = (quad: Quad, { width, height }: { readonly width: number; readonly height: number }): boolean =>
  isConvexQuad(quad) && polygonArea(quad) > 0.03 * width * height;

/** A side that leaves its chord by less than this share is straight: that much is the noise of finding it. */
const TRIFLE = 0.003;

const withoutTrifles = (bends: Bends): Bends =>
  bends.map((bend) => (bend.some((share) => Math.abs(share) > TRIFLE) ? bend : STRAIGHT)) as unknown as Bends;
