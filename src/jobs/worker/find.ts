import { inspectStart } from '../../../core/work/intake/inspectStart';
import { startRecipes } from '../../../core/work/intake/startRecipe';
import type { ShotVerdict } from '../../../core/imaging/quality/inspectShot';
import { releaseBuffers } from '../../../core/imaging/raster/releaseBuffers';
import { decodeBlob } from '../../../platform/browser/decodeBlob';
import { readFocalRatio } from '../../../platform/readFocalRatio';
import type { FindRequest, FindResult, InspectRequest, PicturesRequest, SmallPictures } from '../jobProtocol';
import { smallPictures } from './smallPictures';

/** Decodes a photo once: its small pictures are told first, then its paper is found and its shot looked at. */
export async function find(
  { original: { blob, fileName, pdfPage }, finish, pageKind }: FindRequest,
  onPictures: (pictures: SmallPictures) => void,
): Promise<FindResult> {
  const focalRatio = pdfPage === null ? await readFocalRatio(new Uint8Array(await blob.arrayBuffer())) : null;
  const photo = await decodeBlob(blob, fileName, pdfPage);
  onPictures(await smallPictures(photo));
  const { width, height } = photo;
  const pages = startRecipes(photo, { finish, kind: pageKind, focalRatio }).map((recipe) => ({
    recipe,
    verdict: inspectStart(photo, recipe),
  }));
  releaseBuffers(photo.data);
  return { width, height, pages };
}

export async function inspect({ original: { blob, fileName, pdfPage }, recipe }: InspectRequest): Promise<ShotVerdict> {
  const photo = await decodeBlob(blob, fileName, pdfPage);
  const verdict = inspectStart(photo, recipe);
  releaseBuffers(photo.data);
  return verdict;
}

export async function pictures({ original: { blob, fileName, pdfPage } }: PicturesRequest): Promise<SmallPictures> {
  const photo = await decodeBlob(blob, fileName, pdfPage);
  const made = await smallPictures(photo);
  releaseBuffers(photo.data);
  return made;
}
