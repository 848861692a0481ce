import type { FlatPage } from '../core/imaging/finish/pageLight';
import { flattenPage, limitLongSide, readShape } from '../core/imaging/flatten/flattenPage';
import { blurOnPage } from '../core/imaging/motion-blur/blurOnPage';
import { readPhoto } from '../core/imaging/photo-reading/readPhoto';
import { trueSheet } from './flatness';
import type { ScoredPhoto } from './scoredPhotos';

/**
 * A photo's page laid flat by the simulator's own geometry, with what is read on the photo, so that light is scored apart from
 * outlines and flatness.
 * @param longSidePx - the flat page's long side at most; all the photo's detail where it is left out
 */
export function truePage({ image, truth }: Pick<ScoredPhoto, 'image' | 'truth'>, longSidePx = Infinity): FlatPage {
  const shape = { corners: truth.corners, sheet: trueSheet(truth) };
  const full = readShape(truth.corners, image).size;
  const size = limitLongSide(full, longSidePx);
  const { motionBlur } = readPhoto(image, truth.corners, null);
  return {
    flat: flattenPage(image, shape, size),
    detail: size.height / full.height,
    motionBlur: motionBlur === null ? null : blurOnPage(motionBlur, shape, size),
    illumination: null,
  };
}
