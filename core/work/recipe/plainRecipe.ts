import { PLAIN_LIGHT, type Finish } from '../../imaging/finish/finishSettings';
import { ALL_STRAIGHT } from '../../imaging/geometry/bentOutline';
import { wholePicture } from '../../imaging/geometry/quad';
import { UNREAD } from '../../imaging/photo-reading/photoReading';
import { RECIPE_VERSION, type Outline, type Recipe } from './recipe';
import { type PageKind } from '../paper/pageKind';

/*
 * Recipes that need nothing to be looked for: kept apart from startRecipe, so that screens need not load what looks.
 */

/** How each kind of thing is lit unless the person says otherwise: a picture stays a picture. */
export const usualFinish = (kind: PageKind): Finish =>
  kind === 'picture' ? 'asshot' : kind === 'board' ? 'board' : 'daylight';

/** A recipe with nothing decided but where the page is and how it is lit. */
export const recipeOf = (outline: Outline, finish: Finish, kind: PageKind): Recipe => ({
  version: RECIPE_VERSION,
  kind,
  reading: UNREAD,
  outline,
  sheet: 'auto',
  quarterTurns: 0,
  uprightConfidence: null,
  finish,
  light: PLAIN_LIGHT,
  mends: [],
  marks: [],
});

const wholeOutline = (width: number, height: number, by: Outline['by'], confidence: number): Outline => ({
  corners: wholePicture(width, height),
  bends: ALL_STRAIGHT,
  lines: [],
  by,
  confidence,
});

/** The recipe of the whole photo, untouched but for its finish. */
export const wholePhotoRecipe = (width: number, height: number, finish: Finish, kind: PageKind = 'sheet'): Recipe =>
  recipeOf(wholeOutline(width, height, 'whole', 1), finish, kind);

/** The recipe of a photo that is kept but not looked at yet. */
export const pendingRecipe = (width: number, height: number, finish: Finish, kind: PageKind): Recipe =>
  recipeOf(wholeOutline(width, height, 'pending', 0), finish, kind);
