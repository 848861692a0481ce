import { detectOutline, type DetectedOutline } from '../../imaging/detect/detectOutline';
import { ALL_STRAIGHT, turnBends } from '../../imaging/geometry/bentOutline';
import type { Finish } from '../../imaging/finish/finishSettings';
import { followLines } from '../../imaging/flatten/followLines';
import { flattenPage, limitLongSide } from '../../imaging/flatten/flattenPage';
import { splitSpread } from '../../imaging/flatten/splitSpread';
import { distance } from '../../imaging/geometry/point';
import { turnQuad, wholePicture, type Quad } from '../../imaging/geometry/quad';
import { readPhoto } from '../../imaging/photo-reading/readPhoto';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { readUpright } from '../../imaging/upright/readUpright';
import { shapeOf } from '../render/renderPage';
import { recipeOf } from '../recipe/plainRecipe';
import { CHECK_TURN_BELOW, outlineProblem, type Recipe } from '../recipe/recipe';
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
  const half = (side: Quad): Recipe =>
    setUpright(photo, {
      ...recipeOf({ corners: side, bends: ALL_STRAIGHT, by: 'found', confidence: confidence * fold }, finish, 'sheet'),
      reading,
    });
  return [half(left), half(right)];
}

/**
 * The recipe of a page with this outline: the right way up where that is sure. Where no outline was found and the whole photo
 * stands in for one, its lines of writing say how it is bent and tilted; an outline that was found is left to its edges.
 */
export function recipeFromOutline(
  photo: PixelImage,
  { quad, bends, confidence }: DetectedOutline,
  { finish, kind, focalRatio }: StartOptions,
): Recipe {
  const reading = readPhoto(photo, quad, focalRatio);
  const recipe = setUpright(photo, {
    ...recipeOf({ corners: quad, bends, by: 'found', confidence }, finish, kind),
    reading,
  });
  const whole = wholePicture(photo.width, photo.height).every((p, i) => distance(p, quad[i]!) < 1);
  if (!whole || kind !== 'sheet') return recipe;
  const { quarterTurns } = recipe;
  const read = followLines(photo, turnQuad(quad, quarterTurns));
  if (read === null || outlineProblem(read.corners, photo.width, photo.height, read.bends) !== null) return recipe;
  return {
    ...recipe,
    outline: {
      ...recipe.outline,
      corners: turnQuad(read.corners, -quarterTurns),
      bends: turnBends(read.bends, -quarterTurns),
    },
  };
}

/** Long side of the flat page that is read for which way up it is. */
const READING_LONG_SIDE_PX = 1000;
const DOUBT_FROM = 0.5;

/** The recipe turned so that the page can be read, where that is sure; else as it came, with the doubt on record. */
function setUpright(photo: PixelImage, recipe: Recipe): Recipe {
  const shape = shapeOf(photo, recipe);
  const { quarterTurns, confidence } = readUpright(
    flattenPage(photo, shape, limitLongSide(shape.size, READING_LONG_SIDE_PX)),
  );
  if (confidence === null) return recipe;
  if (confidence >= CHECK_TURN_BELOW) return { ...recipe, quarterTurns, uprightConfidence: confidence };
  // a page left as it was shot is only worth a question where another way looks likelier
  return quarterTurns !== 0 && confidence >= DOUBT_FROM ? { ...recipe, uprightConfidence: confidence } : recipe;
}

const usable = (found: DetectedOutline | null, { width, height }: PixelImage): DetectedOutline | null =>
  found === null || outlineProblem(found.quad, width, height, found.bends) !== null ? null : found;
