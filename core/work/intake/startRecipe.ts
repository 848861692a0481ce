import { detectOutline, type DetectedOutline } from '../../imaging/detect/detectOutline';
import { ALL_STRAIGHT, mostBent, turnBends } from '../../imaging/geometry/bentOutline';
import type { Finish } from '../../imaging/finish/finishSettings';
import { levelByLines } from '../../imaging/flatten/levelByLines';
import { linesThatTell } from '../../imaging/flatten/linesThatTell';
import { turnLines, type PageLine } from '../../imaging/flatten/pageLine';
import { readingPage } from '../../imaging/flatten/readingPage';
import { splitSpread } from '../../imaging/flatten/splitSpread';
import { isWholePicture, turnQuad, wholePicture, type Quad } from '../../imaging/geometry/quad';
import { readPhoto } from '../../imaging/photo-reading/readPhoto';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { readUpright } from '../../imaging/upright/readUpright';
import { shapeOf } from '../render/renderPage';
import { recipeOf } from '../recipe/plainRecipe';
import { CHECK_EDGES_BELOW, CHECK_TURN_BELOW, outlineProblem, type Recipe } from '../recipe/recipe';
import type { PageKind } from '../paper/pageKind';

export interface StartOptions {
  readonly finish: Finish;
  readonly kind: PageKind;
  /** Focal length over the photo's long side as the file tells it, or null. */
  readonly focalRatio: number | null;
}

/**
 * The recipes a new photo begins with: its paper's outline where one is found, else the whole photo marked as unsure. One
 * for each page that it shows: two for a spread, left then right, else one.
 * @param photo - RGB or RGBA, upright as to EXIF
 */
export function startRecipes(
  photo: PixelImage,
  { finish, kind, focalRatio }: StartOptions,
): readonly [Recipe, ...Recipe[]] {
  const found = usable(detectOutline(photo), photo);
  const outline = found ?? { quad: wholePicture(photo.width, photo.height), bends: ALL_STRAIGHT, confidence: 0 };
  if (kind !== 'spread') return [recipeFromOutline(photo, outline, { finish, kind, focalRatio })];
  const { quad: corners, confidence } = outline;
  const { left, right, confidence: fold } = splitSpread(photo, corners);
  const reading = readPhoto(photo, corners, focalRatio);
  const half = (side: Quad): Recipe => {
    const by = { by: 'found', confidence: confidence * fold } as const;
    const recipe = { ...recipeOf({ corners: side, bends: ALL_STRAIGHT, lines: [], ...by }, finish, 'sheet'), reading };
    return setUpright(readingPage(photo, shapeOf(photo, recipe)), recipe);
  };
  return [half(left), half(right)];
}

/**
 * The recipe of a page with this outline: the right way up where that is sure, and laid flat by the lines that stand on it too.
 * Where no outline was found and the whole photo stands in for one, they alone say how the page lies.
 */
export function recipeFromOutline(
  photo: PixelImage,
  { quad, bends, confidence }: DetectedOutline,
  { finish, kind, focalRatio }: StartOptions,
): Recipe {
  const reading = readPhoto(photo, quad, focalRatio);
  const found = { ...recipeOf({ corners: quad, bends, lines: [], by: 'found', confidence }, finish, kind), reading };
  const shape = shapeOf(photo, found);
  const flat = readingPage(photo, shape);
  const recipe = setUpright(flat, found);
  if (kind !== 'sheet') return recipe;
  if (isWholePicture(quad, photo.width, photo.height)) return levelled(photo, recipe);
  // paper that bends, bends two of its sides
  if (confidence >= CHECK_EDGES_BELOW && mostBent(bends) === 0) return recipe;
  const by = (lines: readonly PageLine[]): Recipe => ({ ...found, outline: { ...found.outline, lines } });
  const lines = linesThatTell(flat, shape, (each) => shapeOf(photo, by(each)), recipe.quarterTurns % 2 === 1);
  return { ...recipe, outline: { ...recipe.outline, lines } };
}

/** The recipe of a page that fills the photo, laid level by the lines that stand on it where there are some. */
function levelled(photo: PixelImage, recipe: Recipe): Recipe {
  const { quarterTurns, outline, reading } = recipe;
  const level = levelByLines(photo, turnQuad(outline.corners, quarterTurns), reading.focalRatio);
  if (level === null || outlineProblem(level.corners, photo.width, photo.height, level.bends) !== null) return recipe;
  return {
    ...recipe,
    outline: {
      ...outline,
      corners: turnQuad(level.corners, -quarterTurns),
      bends: turnBends(level.bends, -quarterTurns),
      lines: turnLines(level.lines, -quarterTurns),
    },
  };
}

const DOUBT_FROM = 0.5;

/** The recipe turned so that the page, laid flat, can be read, where that is sure; else as it came, with the doubt on record. */
function setUpright(flat: PixelImage, recipe: Recipe): Recipe {
  const { quarterTurns, confidence } = readUpright(flat);
  if (confidence === null) return recipe;
  if (confidence >= CHECK_TURN_BELOW) return { ...recipe, quarterTurns, uprightConfidence: confidence };
  // a page left as it was shot is only worth a question where another way looks likelier
  return quarterTurns !== 0 && confidence >= DOUBT_FROM ? { ...recipe, uprightConfidence: confidence } : recipe;
}

const usable = (found: DetectedOutline | null, { width, height }: PixelImage): DetectedOutline | null =>
  found === null || outlineProblem(found.quad, width, height, found.bends) !== null ? null : found;
