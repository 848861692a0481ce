import { scaleQuad } from '../geometry/quad';
import { withWorkspace } from '../kernels/workspace';
import type { PixelImage } from '../raster/pixelImage';
import { readPicture } from './readPicture';
import { refineOutline } from './refineOutline';
import type { BentQuad } from './sideSearch';
import { traceSides } from './traceSides';

/** An outline that is roughly known. */
export interface RoughOutline extends BentQuad {
  /** Sides (top, right, bottom, left) that stay as they are. */
  readonly fixed: readonly boolean[];
}

/** How far from the course known a side is looked for, as a share of the picture's long side: a kink that a longer side's course has rounded. */
const REACH = 0.012;

/**
 * Moves the sides of outlines that are roughly known onto the edges nearby, with their waves and folds.
 * @param image - RGB or RGBA, upright as to EXIF
 * @param outlines - in its pixels; so is what comes back
 */
export const followSides = (image: PixelImage, outlines: readonly RoughOutline[]): BentQuad[] =>
  withWorkspace((ws) => {
    const { larger: picture, segmentation } = readPicture(image, ws);
    const factor = picture.width / image.width;
    return outlines.map(({ quad, bends, fixed }) => {
      const search = { picture, fixed, polarity: 0, segmentation };
      const start = { quad: scaleQuad(quad, factor), bends };
      const found = traceSides(search, refineOutline(search, start, REACH * Math.max(picture.width, picture.height)));
      return { quad: scaleQuad(found.quad, 1 / factor), bends: found.bends };
    });
  });
