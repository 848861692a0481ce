import { longSideAtDpi, type Paper } from '../pdf/paperSize';
import type { PixelImage } from '../raster/pixelImage';
import type { Recipe } from '../recipe/recipe';
import { renderedSize, renderPage } from '../recipe/renderPage';
import { codePage, CODINGS, type CodedPage, type EncodeJpeg } from './codePage';

/** The page's picture for a file, before it is coded: as many px as the coding's dpi need on its paper. */
export function renderForFile(original: PixelImage, recipe: Recipe, coding: number, paper: Paper): PixelImage {
  const size = renderedSize(original.width, original.height, recipe);
  return renderPage(original, recipe, longSideAtDpi(size.width, size.height, paper, CODINGS[coding]!.dpi, recipe.kind));
}

/**
 * Renders a page for a file and codes it.
 * @param original - RGB, RGBA or grey, upright as to EXIF
 * @param coding - which of CODINGS
 * @param onRendered - called between the two
 */
export function renderCoded(original: PixelImage, recipe: Recipe, coding: number, paper: Paper, encodeJpeg: EncodeJpeg, onRendered: () => void = () => undefined): Promise<CodedPage> {
  const page = renderForFile(original, recipe, coding, paper);
  onRendered();
  return codePage(page, recipe.finish, CODINGS[coding]!, encodeJpeg);
}
