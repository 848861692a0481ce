import { halvePicture, toSmallColourPicture } from '../detect/colourPicture';
import { locateSheet } from '../detect/locateSheet';
import { measureCandidates, rankCandidates, type DetectEffort } from '../detect/measureCandidates';
import { confidenceOf } from '../detect/quadScorer';
import type { WorkingPicture } from '../detect/readPicture';
import { scaleQuad, type Quad } from '../geometry/quad';
import { withWorkspace, type Workspace } from '../kernels/workspace';
import type { PixelImage } from '../raster/pixelImage';
import { LIVE_CONFIDENCE_WEIGHTS, LIVE_SCORER_WEIGHTS } from './liveWeights';

/*
 * Where the paper is in a camera frame, fast enough to follow the hand: the photo's own method (core/detect) on a quarter of
 * the pixels, with fewer lines and candidates, and a confidence learnt at that size, on empty desks too. Assumes and fails as
 * that does; small print counts for less, since it is gone at this size.
 */

/** Long side that frames are searched at: a quarter of a photo's pixels, for ten outlines a second on a slow phone. */
const WORKING_LONG_SIDE_PX = 208;
/** For camera frames: about a tenth of a photo's work. */
export const LIVE_EFFORT: DetectEffort = {
  fineLines: 20,
  coarseLines: 10,
  pageLines: 0,
  edgeMedians: 1.6,
  keptLines: 15,
  candidates: 24,
};

export interface LiveOutline {
  /** Corners in pixels of the frame; they may lie outside it. */
  readonly quad: Quad;
  /** Sides that lie on the frame's border, top, right, bottom, left: the paper runs out there. */
  readonly outOfView: readonly boolean[];
  /** Chance that the outline is right (Jaccard index of 0.9 or more), 0 to 1. */
  readonly confidence: number;
}

/** The frame made small and split, as the finding needs it; the mean over four pixels is blur enough. */
export function readFrame(frame: PixelImage, ws: Workspace): WorkingPicture {
  const raw = toSmallColourPicture(frame, WORKING_LONG_SIDE_PX, ws);
  return { raw, fine: raw, half: halvePicture(raw, ws) };
}

/**
 * Finds the paper’s outline in a camera frame; method and limits above.
 * @param frame - RGB or RGBA, at most LIVE_LONG_SIDE_PX on its long side
 * @returns null where nothing at all could be a sheet's sides
 */
export const findLiveOutline = (frame: PixelImage): LiveOutline | null =>
  withWorkspace((ws) => {
    const picture = readFrame(frame, ws);
    const measured = rankCandidates(measureCandidates(picture, { effort: LIVE_EFFORT }), LIVE_SCORER_WEIGHTS);
    const found = locateSheet(measured, { picture: picture.fine, factor: 1, passes: 1, segmentation: null });
    if (found === null) return null;
    return {
      quad: scaleQuad(found.quad, Math.max(frame.width, frame.height) / WORKING_LONG_SIDE_PX),
      outOfView: measured[0]!.candidate.sides.map((side) => side.line.border),
      confidence: confidenceOf(found.confidenceFeatures, LIVE_CONFIDENCE_WEIGHTS),
    };
  });
