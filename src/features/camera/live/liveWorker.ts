import { findLiveOutline } from '../../../../core/imaging/live/findLiveOutline';
import { LIVE_LONG_SIDE_PX } from '../../../../core/imaging/live/liveSize';
import { frameSharpness, readFrameFacts } from '../../../../core/imaging/live/frameFacts';
import { SHOW_FROM } from '../../../../core/imaging/live/steadyOutline';
import { pixelImageFrom, type PixelImage } from '../../../../core/imaging/raster/pixelImage';
import type { FromLiveWorker, ToLiveWorker } from './liveWorkerProtocol';

const scope = globalThis as unknown as {
  onmessage: ((event: MessageEvent<ToLiveWorker>) => void) | null;
  postMessage(message: FromLiveWorker): void;
};

const STILL_QUALITY = 0.93;

/** One canvas for all frames, so that a long session needs no more memory than a short one. */
const canvas = new OffscreenCanvas(1, 1);
const context = canvas.getContext('2d', { willReadFrequently: true });

function readSmall(frame: ImageBitmap): PixelImage {
  if (context === null) throw new Error('liveWorker: no 2d context');
  const scale = Math.min(1, LIVE_LONG_SIDE_PX / Math.max(frame.width, frame.height));
  const width = Math.round(frame.width * scale);
  const height = Math.round(frame.height * scale);
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  context.drawImage(frame, 0, 0, width, height);
  return pixelImageFrom(width, height, 4, context.getImageData(0, 0, width, height).data);
}

async function encode(frame: ImageBitmap): Promise<Blob> {
  const large = new OffscreenCanvas(frame.width, frame.height);
  large.getContext('2d')!.drawImage(frame, 0, 0);
  return large.convertToBlob({ type: 'image/jpeg', quality: STILL_QUALITY });
}

async function answer(message: ToLiveWorker): Promise<FromLiveWorker> {
  if (message.kind === 'frame') {
    const picture = readSmall(message.frame);
    message.frame.close();
    const outline = findLiveOutline(picture);
    const facts = readFrameFacts(picture, outline !== null && outline.confidence >= SHOW_FROM ? outline.quad : null);
    return { kind: 'frame', atMs: message.atMs, width: picture.width, height: picture.height, outline, facts };
  }
  const { id, frames } = message;
  const sharpness = frames.map((frame) => frameSharpness(readSmall(frame), null));
  const photos: Blob[] = [];
  for (const frame of frames) photos.push(await encode(frame));
  const { width, height } = frames[0]!;
  for (const frame of frames) frame.close();
  return { kind: 'still', id, photos, sharpest: sharpness.indexOf(Math.max(...sharpness)), width, height };
}

scope.onmessage = ({ data }) => {
  answer(data).then(
    (reply) => scope.postMessage(reply),
    () => scope.postMessage({ kind: 'failed', id: data.kind === 'still' ? data.id : null }),
  );
};
