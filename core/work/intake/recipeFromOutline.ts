import type { DetectedOutline } from '../../imaging/detect/detectOutline';
import type { Finish } from '../../imaging/finish/finishSettings';
import { levelByLines } from '../../imaging/flatten/levelByLines';
import { linesThatTell } from '../../imaging/flatten/linesThatTell';
import { turnLines, type PageLine } from '../../imaging/flatten/pageLine';
import { readingPage } from '../../imaging/flatten/readingPage';
import { mostBent, turnBends } from '../../imaging/geometry/bentOutline';
import { isWholePicture, turnQuad } from '../../imaging/geometry/quad';
import { readPhoto } from '../../imaging/photo-reading/readPhoto';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { readUpright } from '../../imaging/upright/readUpright';
import type { PageKind } from '../paper/pageKind';
import { recipeOf } from '../recipe/plainRecipe';
import { CHECK_EDGES_BELOW, CHECK_TURN_BELOW, outlineProblem, type Recipe } from '../recipe/recipe';
import { shapeOf } from '../render/renderPage';

export interface StartOptions {
  readonly finish: Finish;
  readonly kind: PageKind;
  /** Focal length over the photo's long side as the file tells it, or null. */
  readonly focalRatio: number | null;
}

/**
 * The recipe of a page with this outline: the right way up where that is sure, and laid flat by the lines that stand on it too.
 * Of a page that fills the photo, or is one of two in a book that does, its lines alone say how it lies.
 * @param foldSide - of such a half of the photo: the side that is the book's fold
 */
export function recipeFromOutline(
  photo: PixelImage,
  { quad, bends, confidence }: DetectedOutline,
  { finish, kind, focalRatio }: StartOptions,
  foldSide: number | null = null,
): Recipe {
  const reading = readPhoto(photo, quad, focalRatio);
  const found = { ...recipeOf({ corners: quad, bends, lines: [], by: 'found', confidence }, finish, kind), reading };
  const shape = shapeOf(photo, found);
  const flat = readingPage(photo, shape);
  const recipe = setUpright(flat, found);
  if (kind !== 'sheet') return recipe;
  if (foldSide !== null || isWholePicture(quad, photo.width, photo.height)) return levelled(photo, recipe, foldSide);
  // paper that bends, bends two of its sides
  if (confidence >= CHECK_EDGES_BELOW && mostBent(bends) === 0) return recipe;
  const by = (lines: readonly PageLine[]): Recipe => ({ ...found, outline: { ...found.outline, lines } });
  const lines = linesThatTell(flat, shape, (each) => shapeOf(photo, by(each)), recipe.quarterTurns % 2 === 1);
  return { ...recipe, outline: { ...recipe.outline, lines } };
}

/** The recipe of a page none of whose sides is seen, but for a fold, laid level by the lines that stand on it where there are some. */
function levelled(photo: PixelImage, recipe: Recipe, foldSide: number | null): Recipe {
  const { quarterTurns, outline, reading } = recipe;
  const seenSide = foldSide === null ? null : (foldSide + quarterTurns) % 4;
  const level = levelByLines(photo, turnQuad(outline.corners, quarterTurns), reading.focalRatio, seenSide);
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
