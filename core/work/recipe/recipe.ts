import { FotoplanError } from '../../errors';
import {
  FINISHES,
  isPlainLight,
  lightProblem,
  PLAIN_LIGHT,
  type Finish,
  type LightSettings,
} from '../../imaging/finish/finishSettings';
import { linesProblem, type PageLine } from '../../imaging/flatten/pageLine';
import { SHEETS, type Sheet } from '../../imaging/geometry/standardSheets';
import { ALL_STRAIGHT, mostBent, SIDE_DETAIL, type Bends } from '../../imaging/geometry/bentOutline';
import { cornerClearancePx, isConvexQuad, mapQuad, polygonArea, type Quad } from '../../imaging/geometry/quad';
import { readingProblem, UNREAD, type PhotoReading } from '../../imaging/photo-reading/photoReading';
import { marksProblem, turnMarks, type Mark } from '../marks/marks';
import { mendsProblem, type Mend } from '../../imaging/mend/mend';
import { PAGE_KINDS, type PageKind } from '../paper/pageKind';

export const RECIPE_VERSION = 8;

/** Where the paper is in the original, and who says so. */
export interface Outline {
  /** Corners in pixels of the upright original, TL, TR, BR, BL as the page is read when quarterTurns is 0. */
  readonly corners: Quad;
  /** How the sides leave their chords: a bowed or curled sheet's do. */
  readonly bends: Bends;
  /** Lines that stand on the page and say how it lies between its sides, in pixels of the upright original, as it is read when quarterTurns is 0; none where the sides say it all. */
  readonly lines: readonly PageLine[];
  /** pending: not looked for yet; found: by Fotoplan; hand: set by the person; whole: the whole photo. */
  readonly by: 'pending' | 'found' | 'hand' | 'whole';
  /** Chance that a found outline is right, 0 to 1; 1 where a person decided. */
  readonly confidence: number;
}

/** Everything decided about a page. Applying it to its original always gives the same picture. */
export interface Recipe {
  readonly version: typeof RECIPE_VERSION;
  readonly kind: PageKind;
  /** What was measured on the photo at its full size. */
  readonly reading: PhotoReading;
  readonly outline: Outline;
  readonly sheet: Sheet;
  /** Clockwise turns of the flat page, 0 to 3. */
  readonly quarterTurns: 0 | 1 | 2 | 3;
  /** Chance that the page is the right way up, 0 to 1; null where nothing on it says, 1 where a person decided. */
  readonly uprightConfidence: number | null;
  readonly finish: Finish;
  readonly light: LightSettings;
  /** What is painted away, in the order it was painted. */
  readonly mends: readonly Mend[];
  /** What is written on top of the page. */
  readonly marks: readonly Mark[];
}

/** What two screens can each decide without the other's losing it. */
export const RECIPE_FIELDS = [
  'kind',
  'reading',
  'outline',
  'sheet',
  'quarterTurns',
  'uprightConfidence',
  'finish',
  'light',
  'mends',
  'marks',
] as const satisfies readonly (keyof Recipe)[];
export type RecipeField = (typeof RECIPE_FIELDS)[number];

/** Which fields differ between two recipes of one page. */
export const changedFields = (before: Recipe, after: Recipe): readonly RecipeField[] =>
  RECIPE_FIELDS.filter((field) => JSON.stringify(before[field]) !== JSON.stringify(after[field]));

/** A recipe with some fields taken from another. */
export const withFields = (recipe: Recipe, from: Recipe, fields: readonly RecipeField[]): Recipe => ({
  ...recipe,
  ...Object.fromEntries(fields.map((field) => [field, from[field]])),
});

/** Below this a found outline is shown to the person as "check edges". */
export const CHECK_EDGES_BELOW = 0.8;

/** The photo was not looked at yet. */
export const isPending = ({ outline }: Recipe): boolean => outline.by === 'pending';

/** A PDF's own page about which nothing was decided but its turn: it goes into the file as it came. */
export const isTakenAsIs = ({
  pdfPage,
  recipe,
}: {
  readonly pdfPage: number | null;
  readonly recipe: Recipe;
}): boolean => pdfPage !== null && isUntouched(recipe);

const isUntouched = ({ outline, finish, light, mends }: Recipe): boolean =>
  outline.by === 'whole' && finish === 'asshot' && mends.length === 0 && isPlainLight(light);

/** Below this a page that Fotoplan could read is shown as “which way up?”. */
export const CHECK_TURN_BELOW = 0.9;

/** The page was read, and which way up it is could not be told. */
export const needsTurnCheck = ({ uprightConfidence }: Recipe): boolean =>
  uprightConfidence !== null && uprightConfidence < CHECK_TURN_BELOW;

/** The outline was found, and not surely. */
export const needsEdgeCheck = ({ outline }: Recipe): boolean =>
  outline.by === 'found' && outline.confidence < CHECK_EDGES_BELOW;

/** Only the person can say whether this page is right. */
export const wantsLook = (recipe: Recipe): boolean => needsEdgeCheck(recipe) || needsTurnCheck(recipe);

/** A page may hang out of the photo by this share of the photo's size. */
const OVERHANG = 0.5;
const LEAST_AREA_SHARE = 0.01;
/** A side further from its chord than this share of it belongs to no sheet that can be laid flat. */
const MOST_BENT = 0.3;

/** Why an outline cannot be a page's, in a sentence for the shell and for whoever speaks to the server. */
export const OUTLINE_PROBLEMS = {
  noPlace: 'A corner has no place. Take the whole photo and set the corners again.',
  outside: 'A corner lies far outside the photo. Move it back in.',
  crossed: 'The sides cross each other. Move the corner back to its own side.',
  tooSmall: 'The outline is too small. Move the corners apart.',
  tooBent: 'The side is bent too far. Move its middle back towards the line.',
} as const;
export type OutlineProblem = keyof typeof OUTLINE_PROBLEMS;

/**
 * Says what is wrong with an outline, or null where it can be used.
 * @param corners - in pixels of the upright original, whose size is given
 */
export function outlineProblem(
  corners: Quad,
  photoWidth: number,
  photoHeight: number,
  bends: Bends = ALL_STRAIGHT,
): OutlineProblem | null {
  if (corners.some((p) => !Number.isFinite(p.x) || !Number.isFinite(p.y))) return 'noPlace';
  const out = corners.some(
    (p) =>
      p.x < -OVERHANG * photoWidth ||
      p.y < -OVERHANG * photoHeight ||
      p.x > (1 + OVERHANG) * photoWidth ||
      p.y > (1 + OVERHANG) * photoHeight,
  );
  if (out) return 'outside';
  if (!isConvexQuad(corners)) return 'crossed';
  if (polygonArea(corners) < LEAST_AREA_SHARE * photoWidth * photoHeight || cornerClearancePx(corners) < 4) {
    return 'tooSmall';
  }
  if (mostBent(bends) > MOST_BENT) return 'tooBent';
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
  if (typeof recipe.version !== 'number' || recipe.version < 1)
    return invalid('This page’s recipe has no version. Add its photo again.');
  if (recipe.version > RECIPE_VERSION) return invalid('This page was made by a newer Fotoplan. Reload to get it.');
  if ((recipe.version as number) === 1) return readRecipe(from1to2(recipe));
  if ((recipe.version as number) === 2) return readRecipe(from2to3(recipe));
  if ((recipe.version as number) === 3) return readRecipe(from3to4(recipe));
  if ((recipe.version as number) === 4) return readRecipe({ ...recipe, version: 5, marks: [] });
  if ((recipe.version as number) === 5) return readRecipe(from5to6(recipe));
  if ((recipe.version as number) === 6) return readRecipe({ ...recipe, version: 7 }); // sides were told by three numbers only
  if ((recipe.version as number) === 7) return readRecipe(from7to8(recipe));
  const { outline, quarterTurns, finish } = recipe;
  const corners = outline?.corners as unknown;
  const isPoint = (p: unknown): boolean =>
    typeof (p as { x?: unknown } | null)?.x === 'number' && typeof (p as { y?: unknown }).y === 'number';
  if (!Array.isArray(corners) || corners.length !== 4 || !corners.every(isPoint))
    return invalid('The outline needs four corners. Take the whole photo and set them again.');
  const bends = outline?.bends as unknown;
  const isBend = (bend: unknown): boolean =>
    Array.isArray(bend) &&
    (bend.length === 3 || bend.length === SIDE_DETAIL) &&
    bend.every((share) => typeof share === 'number' && Number.isFinite(share));
  if (!Array.isArray(bends) || bends.length !== 4 || !bends.every(isBend))
    return invalid('Each side needs its bend. Set the edges again.');
  const lines = linesProblem(outline?.lines);
  if (lines !== null) return invalid(lines);
  if (!SHEETS.includes(recipe.sheet as Sheet)) return invalid(`The sheet must be one of ${SHEETS.join(', ')}.`);
  if (![0, 1, 2, 3].includes(quarterTurns as number)) return invalid('The turn must be 0, 1, 2 or 3 quarter turns.');
  if (!FINISHES.includes(finish as Finish)) return invalid(`The finish must be one of ${FINISHES.join(', ')}.`);
  if (!PAGE_KINDS.includes(recipe.kind as PageKind))
    return invalid(`What is shown must be one of ${PAGE_KINDS.join(', ')}.`);
  const problem =
    readingProblem(recipe.reading) ??
    lightProblem(recipe.light) ??
    mendsProblem(recipe.mends) ??
    marksProblem(recipe.marks);
  if (problem !== null) return invalid(problem);
  return recipe as Recipe;
}

/** Until version 2 every page was a sheet. */
const from1to2 = (recipe: object): object => ({ ...recipe, version: 2, kind: 'sheet' });

/** Until version 3 all sides were straight, proportions were recovered, and nobody looked which way up a page was. */
const from2to3 = (recipe: Partial<Recipe>): object => ({
  ...recipe,
  version: 3,
  outline: { ...recipe.outline, bends: ALL_STRAIGHT },
  sheet: 'auto',
  uprightConfidence: null,
});

/** Until version 4 a finish could not be set, and nothing was painted away. */
const from3to4 = (recipe: object): object => ({ ...recipe, version: 4, light: PLAIN_LIGHT, mends: [] });

/** Until version 6 a photo was read anew at every size it was shown at. */
const from5to6 = (recipe: object): object => ({ ...recipe, version: 6, reading: UNREAD });

/** Until version 8 nobody looked for lines that stand on the page. */
const from7to8 = (recipe: Partial<Recipe>): object => ({
  ...recipe,
  version: 8,
  outline: { ...recipe.outline, lines: [] },
});

/** The same page turned clockwise by quarter turns. */
export const turnRecipe = (recipe: Recipe, turns: number): Recipe => ({
  ...recipe,
  quarterTurns: ((((recipe.quarterTurns + turns) % 4) + 4) % 4) as Recipe['quarterTurns'],
  uprightConfidence: 1,
  marks: turnMarks(recipe.marks, turns),
});

/** What a person sets by hand. */
export type OutlineByHand = Pick<Outline, 'corners' | 'bends' | 'lines'>;

/** The same page with its outline set by hand. */
export const outlineRecipe = (recipe: Recipe, { corners, bends, lines }: OutlineByHand): Recipe => ({
  ...recipe,
  outline: {
    corners: mapQuad(corners, (p) => ({ x: Math.round(p.x * 100) / 100, y: Math.round(p.y * 100) / 100 })),
    bends: bends.map((bend) => bend.map((share) => Math.round(share * 1e5) / 1e5)) as unknown as Bends,
    lines,
    by: 'hand',
    confidence: 1,
  },
});
