import { PICTURE_SIZES } from '../../../contract/pictures';
import type { PixelImage } from '../../../core/imaging/raster/pixelImage';
import { fitLongSide } from '../../../core/imaging/raster/resizeByArea';
import { encodeJpeg } from '../../../platform/browser/encodePicture';
import type { SmallPictures } from '../jobProtocol';

/** Strokes must survive being drawn from the preview once more; a thumbnail is only glanced at. */
const PREVIEW_QUALITY = 0.86;
const THUMBNAIL_QUALITY = 0.8;

/** A photo's preview, and its thumbnail made from that. */
export async function smallPictures(photo: PixelImage): Promise<SmallPictures> {
  const preview = fitLongSide(photo, PICTURE_SIZES.preview.longSidePx);
  const thumbnail = fitLongSide(preview, PICTURE_SIZES.thumbnail.longSidePx);
  return {
    preview: await encodeJpeg(preview, PREVIEW_QUALITY),
    thumbnail: await encodeJpeg(thumbnail, THUMBNAIL_QUALITY),
  };
}
