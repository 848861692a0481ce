import { FotoplanError } from '../errors';
import { FINISHES, type Finish } from '../finish/applyFinish';
import { cornerClearancePx, isConvexQuad, mapQuad, polygonArea, type Quad } from '../geometry/quad';

export const RECIPE_VERSION = 2;

/** What was photographed; a spread is a page only until its two halves have been found. */
export const PAGE_KINDS = ['sheet', 'spread', 'board', 'card', 'picture'] as const;
export type PageKind = (typeof PAGE_KINDS)[number];

/** Where the paper is in the original, and who says so. */
export interface Outline {
  /** Corners in pixels of the upright original, TL, TR, BR, BL as the page is read when quarterTurns is 0. */
  readonly corners: Quad;
  /** pending: not looked for yet; found: by Fotoplan; hand: set by the person; whole: the whole photo. */
  readonly by: 'pending' | 'found' | 'hand' | 'whole';
  /** Chance that a found outline is right, 0 to 1; 1 where a person decided. */
  readonly confidence: number;
}

/** Everything decided about a page. Applying it to its original always gives the same picture. */
export interface Recipe {
  readonly version: typeof RECIPE_VERSION;
  readonly kind: PageKind;
  readonly outline: Outline;
  /** Clockwise turns of the flat page, 0 to 3. */
  readonly quarterTurns: 0 | 1 | 2 | 3;
  readonly finish: Finish;
}

/** Below this a found outline is shown to the person as "check edges". */
export const CHECK_EDGES_BELOW = 0.7;

export const isPending = ({ outline }: Recipe): boolean => outline.by === 'pending';

/** Nothing was decided about the page but its turn: a PDF's page can go into the file as it came. */
export const isUntouched = ({ outline, finish }: Recipe): boolean => outline.by === 'whole' && finish === 'asshot';

export const needsEdgeCheck = ({ outline }: Recipe): boolean => outline.by === 'found' && outline.confidence < CHECK_EDGES_BELOW;

/** A page may hang out of the photo by this share of the photo's size. */
const OVERHANG = 0.5;
const LEAST_AREA_SHARE = 0.01;

/**
 * Says what is wrong with an outline, as a sentence that names the fix, or null where it can be used.
 * @param corners - in pixels of the upright original, whose size is given
 */
export function outlineProblem(corners: Quad, photoWidth: number, photoHeight: number): string | null {
  if (corners.some((p) => !Number.isFinite(p.x) || !Number.isFinite(p.y))) return 'A corner has no place. Take the whole photo and set the corners again.';
  const out = corners.some((p) => p.x < -OVERHANG * photoWidth || p.y < -OVERHANG * photoHeight || p.x > (1 + OVERHANG) * photoWidth || p.y > (1 + OVERHANG) * photoHeight);
  if (out) return 'A corner lies far outside the photo. Move it back in.';
  if (!isConvexQuad(corners)) return 'The sides cross each other. Move the corner back to its own side.';
  if (polygonArea(corners) < LEAST_AREA_SHARE * photoWidth * photoHeight || cornerClearancePx(corners) < 4) {
    return 'The outline is too small. Move the corners apart.';
  }
  return null;
}

/**
 * Reads a recipe of any version so far and brings it to today's; each upgrade is one pure function.
 * @throws FotoplanError RECIPE_INVALID when it is not a recipe, or from a newer Fotoplan
 */
export function readRecipe(stored: unknown): Recipe {
  const invalid = (why: string): never => {
    throw new FotoplanError('RECIPE_INVALID', why);
  };
  if (typeof stored !== 'object' || stored === null) return invalid('This page has no recipe. Add its photo again.');
  const recipe = stored as Partial<Recipe>;
  if (typeof recipe.version !== 'number' || recipe.version < 1) return invalid('This page’s recipe has no version. Add its photo again.');
  if (recipe.version > RECIPE_VERSION) return invalid('This page was made by a newer Fotoplan. Reload to get it.');
  if ((recipe.version as number) === 1) return readRecipe(from1to2(recipe));
  const { outline, quarterTurns, finish } = recipe;
  const corners = outline?.corners as unknown;
  const isPoint = (p: unknown): boolean => typeof (p as { x?: unknown } | null)?.x === 'number' && typeof (p as { y?: unknown }).y === 'number';
  if (!Array.isArray(corners) || corners.length !== 4 || !corners.every(isPoint)) return invalid('The outline needs four corners. Take the whole photo and set them again.');
  if (![0, 1, 2, 3].includes(quarterTurns as number)) return invalid('The turn must be 0, 1, 2 or 3 quarter turns.');
  if (!FINISHES.includes(finish as Finish)) return invalid(`The finish must be one of ${FINISHES.join(', ')}.`);
  if (!PAGE_KINDS.includes(recipe.kind as PageKind)) return invalid(`What is shown must be one of ${PAGE_KINDS.join(', ')}.`);
  return recipe as Recipe;
}

/** Until version 2 every page was a sheet. */
const from1to2 = (recipe: object): object => ({ ...recipe, version: 2, kind: 'sheet' });

/** The same page turned clockwise by quarter turns. */
export const turnRecipe = (recipe: Recipe, turns: number): Recipe => ({
  ...recipe,
  quarterTurns: ((((recipe.quarterTurns + turns) % 4) + 4) % 4) as Recipe['quarterTurns'],
});

/** The same page with corners set by hand. */
export const recornerRecipe = (recipe: Recipe, corners: Quad): Recipe => ({
  ...recipe,
  outline: { corners: mapQuad(corners, (p) => ({ x: Math.round(p.x * 100) / 100, y: Math.round(p.y * 100) / 100 })), by: 'hand', confidence: 1 },
});
