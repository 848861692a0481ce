import { applyFinish } from '../../imaging/finish/applyFinish';
import { readLight, type LitPage } from '../../imaging/finish/litPage';
import { longSideAtDpi, type Paper } from '../paper/paperSize';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { releaseBuffers } from '../../imaging/raster/releaseBuffers';
import type { Recipe } from '../recipe/recipe';
import { preparePage, renderedSize } from './renderPage';
import { codePage, CODINGS, type CodedPage, type EncodeJpeg } from '../../imaging/layers/codePage';

/** The flat page for a file, as many px as the coding's dpi need on its paper. */
function prepareForFile(
  original: PixelImage,
  recipe: Recipe,
  coding: number,
  paper: Paper,
  tell?: (share: number) => void,
): LitPage {
  const size = renderedSize(original.width, original.height, recipe);
  return preparePage(
    original,
    recipe,
    longSideAtDpi(size.width, size.height, paper, CODINGS[coding]!.dpi, recipe.kind),
    1,
    tell,
  );
}

/**
 * The page's picture for a file, before it is coded.
 * @param original - RGB, RGBA or grey, upright as to EXIF
 * @param coding - which of CODINGS
 */
export const renderForFile = (original: PixelImage, recipe: Recipe, coding: number, paper: Paper): PixelImage =>
  applyFinish(prepareForFile(original, recipe, coding, paper), recipe.finish, recipe.light);

/** Calls what it is given with a photo, and takes that back afterwards. */
export type LendPhoto = <T>(use: (photo: PixelImage) => T) => Promise<T>;

/** About how much of the work is done once the photo is there, the page flat, its light known, and its finish applied. */
const DONE = { there: 0.2, flat: 0.36, lit: 0.6, finished: 0.72 } as const;

/**
 * Renders the page of a photo for a file and codes it. The photo, which is large, is needed only until the page is flat.
 * @param withPhoto - lends the photo: RGB, RGBA or grey, upright as to EXIF
 * @param coding - which of CODINGS
 * @param tell - told how much is done
 */
export async function renderCoded(
  withPhoto: LendPhoto,
  recipe: Recipe,
  coding: number,
  paper: Paper,
  encodeJpeg: EncodeJpeg,
  tell: (share: number) => void,
): Promise<CodedPage> {
  const lit = await withPhoto((photo) => {
    tell(DONE.there);
    return prepareForFile(photo, recipe, coding, paper, (share) => tell(DONE.there + (DONE.flat - DONE.there) * share));
  });
  const field = recipe.finish === 'asshot' ? null : readLight(lit);
  tell(DONE.lit);
  const page = applyFinish(lit, recipe.finish, recipe.light);
  tell(DONE.finished);
  if (field !== null) releaseBuffers(lit.page.data, lit.flat.data, field.noise, ...field.planes);
  const coded = await codePage(page, recipe.finish, CODINGS[coding]!, encodeJpeg, (share) =>
    tell(DONE.finished + (1 - DONE.finished) * share),
  );
  releaseBuffers(page.data);
  return coded;
}
