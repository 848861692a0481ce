import type { LiveOutline } from '../../../../core/imaging/live/findLiveOutline';
import type { FrameFacts } from '../../../../core/imaging/live/frameFacts';

/** Bitmaps are handed over: the sender has them no longer. */
export type ToLiveWorker =
  | { readonly kind: 'frame'; readonly frame: ImageBitmap; readonly atMs: number }
  | { readonly kind: 'still'; readonly id: number; readonly frames: readonly ImageBitmap[] };

/** What one camera frame shows. */
export interface SeenFrame {
  readonly kind: 'frame';
  readonly atMs: number;
  readonly width: number;
  readonly height: number;
  readonly outline: LiveOutline | null;
  readonly facts: FrameFacts;
}

/** JPEGs of all frames at their full size, and which is the sharpest. */
export interface StillFrames {
  readonly kind: 'still';
  readonly id: number;
  readonly photos: readonly Blob[];
  readonly sharpest: number;
  readonly width: number;
  readonly height: number;
}

export type FromLiveWorker = SeenFrame | StillFrames | { readonly kind: 'failed'; readonly id: number | null };
