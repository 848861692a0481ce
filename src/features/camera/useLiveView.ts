import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { LIVE_LONG_SIDE_PX } from '../../../core/imaging/live/liveSize';
import { afterShot } from '../../../core/imaging/live/handsFree';
import { createLiveWorkerClient, type LiveWorkerClient } from './live/liveWorkerClient';
import { LIVE_START, nextLiveState, type LiveState } from './liveState';

export interface LiveView {
  /** Changes with every frame: only what shows a part of it listens to it. */
  readonly live: StoreApi<LiveState>;
  readonly worker: RefObject<LiveWorkerClient | null>;
  /** Call when a shot was secured: hands-free does not take it again, and "good" waits until a page is seen anew. */
  readonly shotTaken: () => void;
}

interface LiveViewOptions {
  readonly handsFreeOn: boolean;
  readonly onFire: () => void;
}

/** A slow device must have time left for the pages already shot: it looks at fewer frames. */
const REST_SHARE = 0.5;

const spawn = (): Worker => new Worker(new URL('./live/liveWorker', window.location.href));

/** Looks at what the video shows, as fast as the worker can and no faster; while `stream` is null nothing is looked at. */
export function useLiveView(
  video: RefObject<HTMLVideoElement | null>,
  stream: MediaStream | null,
  options: LiveViewOptions,
): LiveView {
  const [live] = useState(() => createStore(() => LIVE_START));
  const worker = useRef<LiveWorkerClient | null>(null);
  const current = useRef(options);
  useEffect(() => {
    current.current = options;
  });
  useEffect(() => {
    const client = createLiveWorkerClient(spawn);
    worker.current = client;
    return () => client.close();
  }, []);
  useEffect(() => {
    if (stream === null) return;
    const { lastKept } = live.getState().handsFree;
    live.setState({ ...LIVE_START, handsFree: { ...LIVE_START.handsFree, lastKept } });
    let running = true;
    let restUntilMs = 0;
    const look = async (): Promise<void> => {
      const element = video.current;
      if (element === null || element.videoWidth === 0) return;
      const scale = Math.min(1, LIVE_LONG_SIDE_PX / Math.max(element.videoWidth, element.videoHeight));
      const size = {
        resizeWidth: Math.round(element.videoWidth * scale),
        resizeHeight: Math.round(element.videoHeight * scale),
      };
      const startedMs = performance.now();
      if (startedMs < restUntilMs) return;
      const seen = (await worker.current?.offer(() => createImageBitmap(element, size), startedMs)) ?? null;
      if (!running || seen === null) return;
      restUntilMs = performance.now() + REST_SHARE * (performance.now() - startedMs);
      live.setState(nextLiveState(live.getState(), seen, current.current.handsFreeOn));
      if (live.getState().handsFree.fire) current.current.onFire();
    };
    const next = (): void => {
      if (!running) return;
      void look();
      onNextFrame(video.current, next);
    };
    next();
    return () => {
      running = false;
    };
  }, [video, stream, live]);
  const shotTaken = useCallback(() => {
    const { lastSeen, handsFree } = live.getState();
    const { coaching, steady } = LIVE_START;
    if (lastSeen !== null) live.setState({ coaching, steady, handsFree: afterShot(handsFree, lastSeen.facts) });
  }, [live]);
  return { live, worker, shotTaken };
}

/** Once a new video frame is there, or with the screen where the browser does not tell. */
function onNextFrame(video: HTMLVideoElement | null, then: () => void): void {
  if (video !== null && 'requestVideoFrameCallback' in video) video.requestVideoFrameCallback(then);
  else requestAnimationFrame(then);
}
