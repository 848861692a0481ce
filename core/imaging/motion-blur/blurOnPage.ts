import type { FlatSize, PageShape } from '../flatten/flattenPage';
import { photoToPage, pageToPhoto } from '../flatten/placeOnPage';
import type { MotionBlur } from './motionBlur';

/** Blur shorter than this is no wider than a pixel: there is nothing to be taken out. */
const LEAST_PX = 1.2;

/**
 * A photo's motion blur as it is seen on the flat page: turned, stretched and made smaller as the page's middle is.
 * @param blur - in pixels of the photo
 * @param shape - how the page lies in it
 * @param size - of the flat page, px
 * @returns in pixels of the flat page; null where it is too short to matter
 */
export function blurOnPage(
  { lengthPx, angleRad }: MotionBlur,
  shape: Pick<PageShape, 'corners' | 'sheet'>,
  size: FlatSize,
): MotionBlur | null {
  const toPage = photoToPage(shape);
  const middle = pageToPhoto(shape)(0.5, 0.5);
  const end = (sign: 1 | -1): readonly [number, number] => {
    const { x, y } = toPage({
      x: middle.x + (sign * lengthPx * Math.cos(angleRad)) / 2,
      y: middle.y + (sign * lengthPx * Math.sin(angleRad)) / 2,
    });
    return [x * size.width, y * size.height];
  };
  const [[x0, y0], [x1, y1]] = [end(-1), end(1)];
  const length = Math.hypot(x1 - x0, y1 - y0);
  return length < LEAST_PX ? null : { lengthPx: length, angleRad: Math.atan2(y1 - y0, x1 - x0) };
}
