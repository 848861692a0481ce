import { distance } from '../geometry/point';
import type { PixelImage } from '../raster/pixelImage';
import { findPageLines } from './findPageLines';
import type { PageShape } from './flattenPage';
import { MIN_LINES, type PageLine } from './pageLine';
import { pageToPhoto } from './placeOnPage';

/** Two shapes of a page are the same where no place of it lies further apart than this, as a share of the page's height: 0.3 mm of A4. */
const SAME_WITHIN = 0.001;
/** Places that are looked at along either side. */
const LOOKED_AT = 6;

/**
 * Finds the lines on a page that say it lies otherwise than its sides alone do.
 * @param flat - the readingPage of this shape
 * @param shape - how the page lies by its sides
 * @param shapeBy - how it lies by its sides and lines, in px of the same photo
 * @param sideways - whether writing runs down the page as it lies
 * @returns none where there are too few, or all lies the same without them
 */
export function linesThatTell(
  flat: PixelImage,
  shape: PageShape,
  shapeBy: (lines: readonly PageLine[]) => PageShape,
  sideways = false,
): readonly PageLine[] {
  const lines = findPageLines(flat, shape, { sideways });
  return lines.length >= MIN_LINES && liesOtherwise(shapeBy(lines), shape) ? lines : [];
}

function liesOtherwise(one: PageShape, other: PageShape): boolean {
  const [p, q] = [pageToPhoto(one), pageToPhoto(other)];
  const shares = Array.from({ length: LOOKED_AT }, (_, k) => k / (LOOKED_AT - 1));
  return shares.some((u) => shares.some((v) => distance(p(u, v), q(u, v)) > SAME_WITHIN * other.size.height));
}
