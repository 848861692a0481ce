import type { Workspace } from '../kernels/workspace';
import type { PixelImage } from '../raster/pixelImage';
import { fitLongSide } from '../raster/resizeByArea';
import {
  brightenPictureInto,
  halvePicture,
  smoothPicture,
  toColourPicture,
  toSmallColourPicture,
  type ColourPicture,
} from './colourPicture';
import { segmentPage, type PageSegmentation } from './pageNetwork';

/** Long side of the picture that sides are refined in: a pixel is then about 0.3 mm of A4, and fits are good to a fifth of it. */
const REFINE_LONG_SIDE_PX = 1024;
/** Long side of the picture that candidates are measured in. */
const WORKING_LONG_SIDE_PX = REFINE_LONG_SIDE_PX / 2;

/** A picture as it is, lightly blurred, and smaller. */
export interface WorkingPicture {
  readonly raw: ColourPicture;
  readonly fine: ColourPicture;
  /** At half the size. */
  readonly half: ColourPicture;
}

export interface PictureToSearch {
  /** What the winner is refined in. */
  readonly larger: ColourPicture;
  /** What candidates are measured in. */
  readonly working: WorkingPicture;
  readonly segmentation: PageSegmentation;
}

/**
 * Makes the picture small, twice over, and asks the network.
 * @param image - RGB, RGBA or grey; any size
 * @param ws - what comes back ends with it, but for the segmentation
 */
export function readPicture(image: PixelImage, ws: Workspace): PictureToSearch {
  const longSide = Math.max(image.width, image.height);
  const larger = brightenPictureInto(
    longSide >= 2 * REFINE_LONG_SIDE_PX
      ? toSmallColourPicture(image, REFINE_LONG_SIDE_PX, ws)
      : toColourPicture(fitLongSide(image, REFINE_LONG_SIDE_PX), ws),
  );
  const raw =
    longSide >= REFINE_LONG_SIDE_PX
      ? halvePicture(larger, ws)
      : brightenPictureInto(toColourPicture(fitLongSide(image, WORKING_LONG_SIDE_PX), ws));
  const half = halvePicture(raw, ws);
  return { larger, working: { raw, fine: smoothPicture(raw, ws), half }, segmentation: segmentPage(half) };
}
