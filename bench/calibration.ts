import { detectOutline } from '../core/imaging/detect/detectOutline';
import { pageJaccard } from '../core/imaging/geometry/jaccard';
import { scaleQuad } from '../core/imaging/geometry/quad';
import { findLiveOutline } from '../core/imaging/live/findLiveOutline';
import { LIVE_LONG_SIDE_PX } from '../core/imaging/live/liveSize';
import { fitLongSide } from '../core/imaging/raster/resizeByArea';
import { reliabilityOf, type Said } from './reliability';
import { loadScoredPhotos } from './scoredPhotos';

/** The Jaccard index from which an outline counts as right, in a photo and in a camera frame. */
const RIGHT = { photo: 0.95, frame: 0.9 } as const;

/** Prints how far the confidences of outlines can be believed, on photos that nothing was trained on. */
export async function benchCalibration(photoFolder: string, frameFolder: string): Promise<void> {
  const photos: Said[] = [];
  for await (const { image, truth, aspect } of loadScoredPhotos(photoFolder)) {
    const found = detectOutline(image);
    if (found !== null)
      photos.push({
        confidence: found.confidence,
        right: pageJaccard(found.quad, truth.corners, aspect) >= RIGHT.photo,
      });
  }
  print('Outlines in photos', photos);
  const frames: Said[] = [];
  for await (const { image, truth, aspect } of loadScoredPhotos(frameFolder)) {
    const frame = fitLongSide(image, LIVE_LONG_SIDE_PX);
    const found = findLiveOutline(frame);
    const factor = image.width / frame.width;
    if (found !== null)
      frames.push({
        confidence: found.confidence,
        right: pageJaccard(scaleQuad(found.quad, factor), truth.corners, aspect) >= RIGHT.frame,
      });
  }
  print('Outlines in camera frames', frames);
}

function print(title: string, said: readonly Said[]): void {
  const { bins, expectedError } = reliabilityOf(said);
  console.log(`\n${title}: ${said.length}, expected calibration error ${expectedError.toFixed(3)}`);
  console.table(
    bins.map(({ from, to, count, meanConfidence, shareRight }) => ({
      said: `${from.toFixed(1)} to ${to.toFixed(1)}`,
      count,
      'mean confidence': meanConfidence.toFixed(3),
      right: `${(100 * shareRight).toFixed(1)} %`,
    })),
  );
}
