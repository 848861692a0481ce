import type { Bends } from '../geometry/bentOutline';
import type { Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import type { ColourPicture } from './colourPicture';
import type { PageSegmentation } from './pageNetwork';

/** An outline whose sides may bend. */
export interface BentQuad {
  readonly quad: Quad;
  /** How each side leaves its chord. */
  readonly bends: Bends;
}

/** What the sides of one sheet are looked for in; every step from the chosen candidate to the outline is given the same. */
export interface SideSearch {
  /** In pixels of its own; so are all corners that go with it. */
  readonly picture: ColourPicture;
  /** Sides (top, right, bottom, left) that must stay as they are: they lie on the picture's border. */
  readonly fixed: readonly boolean[];
  /** How much paler than its surroundings the sheet is, -1 to 1: steps the other way count for less. */
  readonly polarity: number;
  /** What the network says of the picture, or null to do without: steps where it sees the page's edge count for more. */
  readonly segmentation: PageSegmentation | null;
}

/** A search in which the network was asked. */
export interface SegmentedSearch extends SideSearch {
  readonly segmentation: PageSegmentation;
}

/** The search with side `s` and its neighbours free, and the opposite side fixed: that one does not feel a change of `s`. */
export const aboutSide = <Search extends SideSearch>(search: Search, s: number): Search => ({
  ...search,
  fixed: search.fixed.map((stays, i) => stays || i === (s + 2) % 4),
});

/** How much the direction of a step counts beside its strength. Set with the scorer; 0 takes dark bands for edges, 1 loses sheets on pale desks. */
const POLARITY_WEIGHT = 0.6;

/**
 * What is left of a step's strength that does not go the sheet's way.
 * @param towards - -1 to 1: 1 for a step that gets paler inwards
 * @param polarity - of the search
 */
export const polarityFactor = (towards: number, polarity: number): number => 1 + POLARITY_WEIGHT * polarity * towards;

/** Response, in levels, from which on a step is one at all. */
const MIN_STEP = 0.7;
/** Response, in levels, at which a step counts half of a very strong one. */
const HALF_STEP = 2;

/** How much a step counts, by its response in levels, 0 to 1 + POLARITY_WEIGHT: 1 is very clear. */
export const edgeStrength = (response: number, towards: number, polarity: number): number =>
  response < MIN_STEP ? 0 : (response / (response + HALF_STEP)) * polarityFactor(towards, polarity);

/** How near to the border a step across a place can still be read, px. */
const BORDER_PX = 4;

/** Whether a place is so far within the picture that a step across it can be read. */
export const inPicture = (p: Point, { width, height }: ColourPicture): boolean =>
  p.x >= BORDER_PX && p.y >= BORDER_PX && p.x <= width - BORDER_PX && p.y <= height - BORDER_PX;

/** How far the sides are moved when an outline is refined from nearby, as a share of the picture's long side. */
export const NEARBY_REACH = 0.007;
