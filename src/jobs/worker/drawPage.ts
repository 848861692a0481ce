import { fuseFrames } from '../../../core/imaging/fuse/fuseFrames';
import type { PixelImage } from '../../../core/imaging/raster/pixelImage';
import { fitLongSide } from '../../../core/imaging/raster/resizeByArea';
import { encodedToRead, pageToRead, type PageToRead } from '../../../core/work/words/pageToRead';
import { renderPage } from '../../../core/work/render/renderPage';
import { decodeBlob } from '../../../platform/browser/decodeBlob';
import { encodeJpeg, encodePng } from '../../../platform/browser/encodePicture';
import type { FuseRequest, FuseResult, PictureRequest, RenderRequest, ToReadRequest } from '../jobProtocol';
import { PREVIEW_LONG_SIDE_PX, type PhotoCache } from './photoCache';

/** The page as its recipe makes it, or with none the photo itself. */
export async function drawPage(
  { original, recipe, longSidePx }: Pick<RenderRequest, 'original' | 'recipe' | 'longSidePx'>,
  photos: PhotoCache,
): Promise<PixelImage> {
  if (recipe === null) return fitLongSide((await photos.preview(original)).image, longSidePx);
  // closer than the copy that is kept: all the photo has
  if (longSidePx > PREVIEW_LONG_SIDE_PX)
    return renderPage(await decodeBlob(original.blob, original.fileName, original.pdfPage), recipe, longSidePx);
  // Press is made larger than it is shown
  return fitLongSide(photos.finish(await photos.page(original, recipe, longSidePx), recipe), longSidePx);
}

const SHOWN_QUALITY = 0.86;
export async function render(
  request: RenderRequest,
  photos: PhotoCache,
): Promise<{ picture: Blob; width: number; height: number }> {
  const page = await drawPage(request, photos);
  return { picture: await encodeJpeg(page, SHOWN_QUALITY), width: page.width, height: page.height };
}

export const toRead = async (request: ToReadRequest, photos: PhotoCache): Promise<PageToRead<Blob>> =>
  encodedToRead(pageToRead(await drawPage(request, photos)), encodePng);

const PICTURE_QUALITY = 0.9;
export async function picture({ original, recipe, format, longSidePx }: PictureRequest): Promise<Blob> {
  const page = renderPage(await decodeBlob(original.blob, original.fileName, original.pdfPage), recipe, longSidePx);
  return format === 'jpeg' ? encodeJpeg(page, PICTURE_QUALITY) : encodePng(page);
}

const FUSED_QUALITY = 0.92;
export async function fuse({ frames }: FuseRequest): Promise<FuseResult> {
  const pictures: PixelImage[] = [];
  for (const frame of frames) pictures.push(await decodeBlob(frame, 'frame', null));
  const { image, used } = fuseFrames(pictures);
  return { photo: await encodeJpeg(image, FUSED_QUALITY), used };
}
