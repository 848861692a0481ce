import type { ApiClient } from '../../data/apiClient';
import { describeCamera, NoCamera, type Camera } from './openCamera';

/*
 * A camera for those who have none: the simulator's pictures of one desk with one page after another on it, played as a
 * MediaStream. A hand's tremor is laid on top by moving the picture a little, since no phone is ever quite still.
 */

const FRAMES_PER_SECOND = 20;
const PAGE_SECONDS = 4;
const BARE_SECONDS = 1.2;
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
  const startedMs = performance.now();
  const draw = (): void => {
    const seconds = (performance.now() - startedMs) / 1000;
    const turn = seconds / (PAGE_SECONDS + BARE_SECONDS);
    const onDesk = (turn % 1) * (PAGE_SECONDS + BARE_SECONDS) > BARE_SECONDS;
    const sway = (hz: number, phase: number): number => Math.sin(2 * Math.PI * hz * seconds + phase);
    const dx = (sway(0.31, 0) + 0.3 * sway(1.7, 1)) * 0.002 * bare.width;
    const dy = (sway(0.23, 2) + 0.3 * sway(1.3, 0)) * 0.002 * bare.height;
    context.drawImage(
      onDesk ? pages[Math.floor(turn) % pages.length]! : bare,
      dx - MARGIN * bare.width,
      dy - MARGIN * bare.height,
    );
  };
  draw();
  const timer = setInterval(draw, 1000 / FRAMES_PER_SECOND);
  const stream = canvas.captureStream(FRAMES_PER_SECOND);
  return describeCamera(stream, true, () => {
    clearInterval(timer);
    stream.getTracks().forEach((track) => track.stop());
    pictures.forEach((picture) => picture.close());
  });
}
