import type { ApiClient } from '../../data/apiClient';
import { describeCamera, NoCamera, type Camera } from './openCamera';

/*
 * A camera for those who have none: the simulator's pictures of one desk with one page after another on it, played as a
 * MediaStream. A page lies there until it is shot, however slow the hand or the device. A hand's tremor is laid on top by
 * moving the picture a little, since no phone is ever quite still.
 */

const FRAMES_PER_SECOND = 20;
/** The desk is bare for so long before each page. */
const BARE_MS = 1200;
/** Room around the picture for the tremor, as a share of its size. */
const MARGIN = 0.02;

/** @throws NoCamera missing, where the practice table is not here */
export async function openPracticeTable(api: ApiClient): Promise<Camera> {
  const pictures = await Promise.all(
    (await api.practiceTable()).map(async ({ url }) => {
      const response = await fetch(url);
      return createImageBitmap(await response.blob());
    }),
  ).catch((cause: unknown) => {
    throw new NoCamera('failed', { cause });
  });
  const [bare, ...pages] = pictures;
  if (bare === undefined || pages.length === 0) throw new NoCamera('missing');
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(bare.width * (1 - 2 * MARGIN));
  canvas.height = Math.round(bare.height * (1 - 2 * MARGIN));
  const context = canvas.getContext('2d');
  if (context === null) throw new NoCamera('failed');
  let shot = 0;
  let layMs = performance.now() + BARE_MS;
  const isBare = (): boolean => performance.now() < layMs;
  const draw = (): void => {
    const seconds = performance.now() / 1000;
    const sway = (hz: number, phase: number): number => Math.sin(2 * Math.PI * hz * seconds + phase);
    const dx = (sway(0.31, 0) + 0.3 * sway(1.7, 1)) * 0.002 * bare.width;
    const dy = (sway(0.23, 2) + 0.3 * sway(1.3, 0)) * 0.002 * bare.height;
    context.drawImage(
      isBare() ? bare : pages[shot % pages.length]!,
      dx - MARGIN * bare.width,
      dy - MARGIN * bare.height,
    );
  };
  draw();
  const timer = setInterval(draw, 1000 / FRAMES_PER_SECOND);
  const stream = canvas.captureStream(FRAMES_PER_SECOND);
  const layNext = (): void => {
    if (isBare()) return;
    shot++;
    layMs = performance.now() + BARE_MS;
  };
  const stop = (): void => {
    clearInterval(timer);
    stream.getTracks().forEach((track) => track.stop());
    pictures.forEach((picture) => picture.close());
  };
  return describeCamera(stream, { layNext }, stop);
}
