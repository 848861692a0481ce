import type { PageShape } from '../../core/imaging/flatten/flattenPage';
import { photoToPage } from '../../core/imaging/flatten/placeOnPage';
import type { Quad } from '../../core/imaging/geometry/quad';
import { quarterTurnsTo, turned } from '../flatness';
import { mean } from '../statistics';
import type { Capture } from './capture';
import type { Paper } from './paper';

/** Where a paper's corners are seen, px: TL, TR, BR, BL of the paper. */
export const trueCorners = ({ widthMm: w, heightMm: h }: Paper, seenAt: Capture['seenAt']): Quad => [
  seenAt(0, 0),
  seenAt(w, 0),
  seenAt(w, h),
  seenAt(0, h),
];

/** How far a paper's ink lies from where it belongs once it is laid flat: the mean, in mm. */
export function inkOffMm(shape: PageShape, paper: Paper, seenAt: Capture['seenAt']): number {
  const toPage = photoToPage(shape);
  const turns = quarterTurnsTo(shape.corners, trueCorners(paper, seenAt));
  return mean(
    paper.inkMm.map(([x, y]) => {
      const at = turned(toPage(seenAt(x, y)), turns);
      return Math.hypot(at.x * paper.widthMm - x, at.y * paper.heightMm - y);
    }),
  );
}
