import type { LiveWorkerClient } from './live/liveWorkerClient';
import type { Camera } from './openCamera';

/** A photo just taken. */
export interface Shot {
  readonly photo: Blob;
  readonly width: number;
  readonly height: number;
  /** All frames, where several were taken to be merged; else null. */
  readonly frames: readonly Blob[] | null;
}

/** Frames to choose the sharpest from, and to merge in dim light. */
const CHOOSE_FROM = 3;
const MERGE_FRAMES = 6;
const BETWEEN_FRAMES_MS = 40;
/** A camera slower than this takes another picture than the one seen when the shutter was pressed. */
const STILL_WAIT_MS = 700;

/** Cameras whose own still came too late or not at all: their video frames are used from then on. */
const slowCameras = new WeakSet<MediaStream>();

interface ImageCaptureLike {
  takePhoto(): Promise<Blob>;
}
type ImageCaptureMaker = new (track: MediaStreamTrack) => ImageCaptureLike;

/**
 * Takes a photo in two steps: a frame is secured at once (`secured` settles then, and the next shot may begin); the photo
 * itself follows: the camera's own still where it is quick enough, else the sharpest of that frame and the next few. The
 * practice table takes its page away as soon as it has been shot.
 * @param merge - dim light: take more frames, for fusing
 */
export function takeShot(
  video: HTMLVideoElement,
  camera: Camera,
  worker: LiveWorkerClient,
  merge: boolean,
): { secured: Promise<void>; shot: Promise<Shot> } {
  const own = merge ? null : takeOwnStill(camera);
  const first = hasFrame(video).then(() => createImageBitmap(video));
  const frames = first.then((frame) => grabMore(video, frame, merge ? MERGE_FRAMES : CHOOSE_FROM));
  const shot = frames.then(async (bitmaps) => {
    const [still, own_] = await Promise.all([worker.still(bitmaps), own]);
    const { photos, sharpest, width, height } = still;
    if (own_ !== null && own_.width * own_.height >= width * height) return { ...own_, frames: null };
    return { photo: photos[sharpest]!, width, height, frames: merge ? photos : null };
  });
  const needsAll = merge || camera.practice !== null;
  return { secured: (needsAll ? frames : first).then(() => camera.practice?.layNext()), shot };
}

const FRAME_WAIT_MS = 3000;

/** Settles once the camera shows something: right after it was opened, on a busy device, it may not yet. */
function hasFrame(video: HTMLVideoElement): Promise<void> {
  if (video.readyState >= 2 && video.videoWidth > 0) return Promise.resolve();
  return new Promise((resolve) => {
    video.addEventListener('loadeddata', () => resolve(), { once: true });
    setTimeout(resolve, FRAME_WAIT_MS);
  });
}

async function grabMore(video: HTMLVideoElement, first: ImageBitmap, count: number): Promise<ImageBitmap[]> {
  const frames = [first];
  while (frames.length < count) {
    await new Promise((resolve) => setTimeout(resolve, BETWEEN_FRAMES_MS));
    const next = await createImageBitmap(video).catch(() => null);
    // the camera went away: what is in hand is kept
    if (next === null) break;
    frames.push(next);
  }
  return frames;
}

async function takeOwnStill({ stream, practice }: Camera): Promise<Omit<Shot, 'frames'> | null> {
  const Maker = (globalThis as { ImageCapture?: ImageCaptureMaker }).ImageCapture;
  const [track] = stream.getVideoTracks();
  if (practice !== null || Maker === undefined || track === undefined || slowCameras.has(stream)) return null;
  const late = new Promise<null>((resolve) => setTimeout(() => resolve(null), STILL_WAIT_MS));
  const photo = await Promise.race([new Maker(track).takePhoto().catch(() => null), late]);
  if (photo === null) {
    slowCameras.add(stream);
    return null;
  }
  const bitmap = await createImageBitmap(photo).catch(() => null);
  if (bitmap === null || photo.type !== 'image/jpeg') return null;
  const { width, height } = bitmap;
  bitmap.close();
  return { photo, width, height };
}
