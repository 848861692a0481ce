import { ALL_STRAIGHT, mostBent, STRAIGHT, type Bends } from '../geometry/bentOutline';
import { distance } from '../geometry/point';
import { isConvexQuad, mapQuad, polygonArea, scaleQuad, type Quad } from '../geometry/quad';
import { withWorkspace } from '../kernels/workspace';
import type { ColourPicture } from './colourPicture';
import { completeOutline } from './completeOutline';
import { measureEdgeSupport } from './edgeSupport';
import { extendToFarEdge } from './extendToFarEdge';
import type { MeasuredQuad } from './measureCandidates';
import { pictureOfPage, type PageSegmentation } from './pageNetwork';
import { featureOf } from './quadFeatures';
import { confidenceFeatures } from './quadScorer';
import { refineOutline, type RefinedOutline } from './refineOutline';
import { searchSidesWidely } from './searchSidesWidely';
import type { BentQuad, SideSearch } from './sideSearch';
import { traceSides } from './traceSides';

export interface LocatedSheet extends BentQuad {
  /** How many sides lie on the picture's border. */
  readonly sidesOut: number;
  readonly confidenceFeatures: readonly number[];
  /** How much paler than its surroundings the sheet is along its sides, -1 to 1. */
  readonly polarity: number;
  /** Jaccard index with the network's page; 0 where it was not asked. */
  readonly overlap: number;
}

/** Where candidates are moved onto their edges. */
export interface LocateIn {
  readonly picture: ColourPicture;
  /** Its size over that of the picture the candidates were measured in. */
  readonly factor: number;
  /** 2 looks again from nearby, for the last fraction of a pixel. */
  readonly passes: 1 | 2;
  /** What the network says: where its page bends, the sides are looked for along that bend too. */
  readonly segmentation: PageSegmentation | null;
}

/** How far from the candidate its sides are looked for, as a share of the picture's long side: a candidate's lines are straight, its sides need not be. */
const FIRST_REACH = 0.02;
/** How far from there, once more, for the last fraction of a pixel. */
const SECOND_REACH = 0.006;
/** Share of a picture below which an outline is none. */
const MIN_AREA = 0.03;
/** A page of the network that bends by less than this share of a side may as well be straight. */
const BENT_FROM = 0.016;
/** How far from the candidate the network's edge is looked for, px of the segmentation. */
const SEGMENTATION_REACH_PX = 9;
/** Levels of the network's page as a picture in which its edge is refined. */
const PAGE_LEVELS = 200;

const usable = (quad: Quad, { width, height }: { readonly width: number; readonly height: number }): boolean =>
  isConvexQuad(quad) && polygonArea(quad) > MIN_AREA * width * height;

/**
 * Takes the best candidate and moves its sides onto the true edge.
 * @param measured - candidates, best first; the others speak for the confidence only
 * @returns in pixels of the picture it was looked for in; null where there is no candidate
 */
export function locateSheet(measured: readonly MeasuredQuad[], where: LocateIn): LocatedSheet | null {
  const best = measured[0];
  if (best === undefined) return null;
  const { picture, factor, segmentation } = where;
  const polarity = featureOf(best.features, 'brighterMean');
  const search = { picture, fixed: best.candidate.sides.map((side) => side.line.border), polarity, segmentation };
  const rough = scaleQuad(best.candidate.quad, factor);
  const { outline, traced, leastSeen } = onTheEdges(search, rough, where);
  const visible = outline?.quad ?? rough;
  const longSide = Math.max(picture.width, picture.height);
  const shift = visible.reduce((sum, p, i) => sum + distance(p, rough[i]!), 0) / 4 / longSide;
  const ranked = measured.map((m) => ({ quad: m.candidate.quad, score: m.score, features: m.features }));
  return {
    ...withHiddenSide(search, traced ?? { quad: rough, bends: ALL_STRAIGHT }),
    sidesOut: search.fixed.filter(Boolean).length,
    confidenceFeatures: confidenceFeatures(ranked, { support: outline?.leastSupport ?? 0, shift, leastSeen }),
    polarity,
    overlap: featureOf(best.features, 'pageOverlap'),
  };
}

/** An outline on the edges seen. */
interface OnEdges {
  readonly outline: RefinedOutline | null;
  /** The same with its sides followed in detail. */
  readonly traced: BentQuad | null;
  readonly leastSeen: number;
}

/** The rough outline on the edges seen, straight or along the network's bend, and where they are not its own, on others; null where none is usable. */
function onTheEdges(search: SideSearch, rough: Quad, { passes }: LocateIn): OnEdges {
  const { picture, segmentation } = search;
  const straight = refineTwice(search, { quad: rough, bends: ALL_STRAIGHT }, passes);
  if (segmentation === null) return { outline: straight, traced: straight, leastSeen: 1 };
  const bent = bentByPage(segmentation, rough, search);
  const along = bent === null ? null : refineTwice(search, bent, passes);
  const first = along !== null && along.leastSupport > (straight?.leastSupport ?? 0) ? along : straight;
  if (first === null) return { outline: null, traced: null, leastSeen: 1 };
  const segmented = { ...search, picture, segmentation };
  const { outline: found, leastSeen } = searchSidesWidely(segmented, first);
  const outline = extendToFarEdge(segmented, found);
  const traced = traceSides(segmented, outline);
  if (traced === outline) return { outline, traced, leastSeen };
  // a side with a wave or a fold is seen wholly only along it
  const seen = Math.min(...measureEdgeSupport(segmented, traced).seen);
  return { outline, traced, leastSeen: Math.max(leastSeen, seen) };
}

/** The outline moved onto the edges, and once more from nearby; null where what comes of it is no page. */
function refineTwice(search: SideSearch, start: BentQuad, passes: 1 | 2): RefinedOutline | null {
  const { picture } = search;
  const longSide = Math.max(picture.width, picture.height);
  const coarse = refineOutline(search, start, FIRST_REACH * longSide);
  const fine =
    passes === 2 && usable(coarse.quad, picture) ? refineOutline(search, coarse, SECOND_REACH * longSide) : coarse;
  return usable(fine.quad, picture) ? fine : usable(coarse.quad, picture) ? coarse : null;
}

/** An outline one of whose sides lies outside the picture, completed as a sheet where that can be done. */
function withHiddenSide({ picture, fixed }: SideSearch, { quad, bends }: BentQuad): BentQuad {
  if (fixed.filter(Boolean).length !== 1) return { quad, bends };
  const hidden = fixed.indexOf(true);
  const completed = completeOutline(quad, hidden, picture.width, picture.height);
  if (completed === null) return { quad, bends };
  // the hidden side's course is unknown, and its neighbours are longer than they were seen
  const facing = (hidden + 2) % 4;
  return { quad: completed, bends: bends.map((bend, s) => (s === facing ? bend : STRAIGHT)) as unknown as Bends };
}

/** The candidate's sides moved onto the edge of the network's page, where that bends; in the picture's pixels. */
function bentByPage(
  segmentation: PageSegmentation,
  rough: Quad,
  { picture: { width, height }, fixed }: SideSearch,
): RefinedOutline | null {
  // the segmentation's pixels are square on the picture to a few percent: bends, being shares, survive that
  const [across, down] = [segmentation.width / width, segmentation.height / height];
  const quad = mapQuad(rough, (p) => ({ x: p.x * across, y: p.y * down }));
  const found = withWorkspace((ws) => {
    const picture = pictureOfPage(segmentation, PAGE_LEVELS, ws);
    const search = { picture, fixed, polarity: 0, segmentation: null };
    return refineOutline(search, { quad, bends: ALL_STRAIGHT }, SEGMENTATION_REACH_PX);
  });
  if (!usable(found.quad, segmentation) || mostBent(found.bends) < BENT_FROM) return null;
  return { ...found, quad: mapQuad(found.quad, (p) => ({ x: p.x / across, y: p.y / down })) };
}
