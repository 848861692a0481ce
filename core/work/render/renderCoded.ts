import { startFinish } from '../../imaging/finish/applyFinish';
import { isBilevel } from '../../imaging/finish/finishSettings';
import { toFinish } from '../../imaging/finish/pageLight';
import { codePage } from '../../imaging/layers/codePage';
import type { CodedPage, Coding, JpegCodec } from '../../imaging/layers/codedPage';
import type { PixelImage } from '../../imaging/raster/pixelImage';
import { releaseBuffers } from '../../imaging/raster/releaseBuffers';
import { longSideAtDpi, type Paper } from '../paper/paperSize';
import type { Recipe } from '../recipe/recipe';
import { preparePage, renderedSize } from './renderPage';

/** Calls what it is given with a photo, and takes that back afterwards. */
export type LendPhoto = <T>(use: (photo: PixelImage) => T) => Promise<T>;

/** About how much of the work is done once the photo is there, the page flat, its light and what its finish makes of it known, and its tones set. */
const DONE = { there: 0.2, flat: 0.36, lit: 0.68, finished: 0.72 } as const;

export interface CodeOptions {
  readonly coding: Coding;
  readonly paper: Paper;
  /** Dots an inch at most, whatever the coding has. */
  readonly mostDpi?: number;
  readonly jpeg: JpegCodec;
  /** Told how much is done, 0 to 1. */
  readonly onProgress?: (fraction: number) => void;
  /** Shown the finished page before it is coded; it is void afterwards. */
  readonly onFinished?: (page: PixelImage) => Promise<void>;
}

/**
 * Renders the page of a photo for a file and codes it. The photo, which is large, is needed only until the page is flat.
 * @param withPhoto - lends the photo: RGB, RGBA or grey, upright as to EXIF
 */
export async function renderCoded(
  withPhoto: LendPhoto,
  recipe: Recipe,
  { coding, paper, mostDpi = Infinity, jpeg, onProgress = () => undefined, onFinished }: CodeOptions,
): Promise<CodedPage> {
  let mostPx = Infinity;
  const prepared = await withPhoto((photo) => {
    onProgress(DONE.there);
    const { width, height } = renderedSize(photo, recipe);
    const longSide = (dpi: number): number => longSideAtDpi(width, height, paper, Math.min(mostDpi, dpi), recipe.kind);
    mostPx = longSide(coding.twoLevelDpi);
    return preparePage(photo, recipe, {
      longSidePx: Math.min(longSide(coding.dpi), isBilevel(recipe.finish) ? mostPx : Infinity),
      onProgress: (fraction) => onProgress(DONE.there + (DONE.flat - DONE.there) * fraction),
    });
  });
  const set = startFinish(toFinish(prepared), recipe.finish, recipe.light, mostPx);
  onProgress(DONE.lit);
  const page = set(recipe.light);
  onProgress(DONE.finished);
  if (page !== prepared.flat) releaseBuffers(prepared.flat.data);
  await onFinished?.(page);
  const coded = await codePage(page, recipe.finish, coding, jpeg, (fraction) =>
    onProgress(DONE.finished + (1 - DONE.finished) * fraction),
  );
  releaseBuffers(page.data);
  return coded;
}
