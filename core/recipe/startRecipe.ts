import { detectOutline, type DetectedOutline } from '../detect/detectOutline';
import type { Finish } from '../finish/applyFinish';
import { splitSpread } from '../flatten/splitSpread';
import { wholePicture, type Quad } from '../geometry/quad';
import type { PixelImage } from '../raster/pixelImage';
import { outlineProblem, RECIPE_VERSION, type Outline, type PageKind, type Recipe } from './recipe';

/** How each kind of thing is lit unless the person says otherwise: a picture stays a picture. */
export const usualFinish = (kind: PageKind): Finish => (kind === 'picture' ? 'asshot' : 'daylight');

const recipeOf = (corners: Quad, by: Outline['by'], confidence: number, finish: Finish, kind: PageKind): Recipe => ({
  version: RECIPE_VERSION,
  kind,
  outline: { corners, by, confidence },
  quarterTurns: 0,
  finish,
});

/** The recipe of the whole photo, untouched but for its finish. */
export const wholePhotoRecipe = (width: number, height: number, finish: Finish, kind: PageKind = 'sheet'): Recipe => recipeOf(wholePicture(width, height), 'whole', 1, finish, kind);

/** The recipe of a photo that is kept but not looked at yet. */
export const pendingRecipe = (width: number, height: number, finish: Finish, kind: PageKind): Recipe => recipeOf(wholePicture(width, height), 'pending', 0, finish, kind);

/**
 * The recipes a new photo begins with: its paper's outline where one is found, else the whole photo marked as unsure. One
 * for each page that it shows: two for a spread, left then right, else one.
 * @param photo - RGB or RGBA, upright as to EXIF
 */
export function startRecipes(photo: PixelImage, finish: Finish, kind: PageKind): readonly [Recipe, ...Recipe[]] {
  const found = usable(detectOutline(photo), photo);
  const corners = found?.quad ?? wholePicture(photo.width, photo.height);
  const confidence = found?.confidence ?? 0;
  if (kind !== 'spread') return [recipeOf(corners, 'found', confidence, finish, kind)];
  const { left, right, confidence: fold } = splitSpread(photo, corners);
  return [recipeOf(left, 'found', confidence * fold, finish, 'sheet'), recipeOf(right, 'found', confidence * fold, finish, 'sheet')];
}

const usable = (found: DetectedOutline | null, { width, height }: PixelImage): DetectedOutline | null =>
  found === null || outlineProblem(found.quad, width, height) !== null ? null : found;
