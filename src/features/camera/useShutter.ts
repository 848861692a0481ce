import { t } from '@lingui/core/macro';
import { useCallback, useRef, useState, type RefObject } from 'react';
import type { PageKind } from '../../../core/work/paper/pageKind';
import { keepShot, type ShotPlace } from './keepShot';
import type { Camera } from './openCamera';
import { shutterFeedback } from './shutterFeedback';
import { takeShot } from './takeShot';
import { useEngine } from '../../engine/useEngine';
import { useSettingsStore } from '../../preferences/settingsStore';
import type { LiveWorkerClient } from './live/liveWorkerClient';
import { errorText } from '../../i18n/errorText';

export interface Shutter {
  /** A frame is being secured; the next shot may begin as soon as this is false. */
  readonly busy: boolean;
  /** Shots whose photo is still on its way to this device's store. */
  readonly keeping: number;
  readonly lastKept: { readonly pageId: string; readonly place: ShotPlace['to'] } | null;
  readonly problem: string | null;
  readonly press: () => void;
  readonly forgetLast: () => void;
}

interface ShutterOptions {
  readonly handInId: string;
  readonly camera: Camera | null;
  readonly video: RefObject<HTMLVideoElement | null>;
  readonly worker: RefObject<LiveWorkerClient | null>;
  readonly kind: PageKind;
  readonly place: ShotPlace;
  readonly merge: boolean;
  readonly onTaken: () => void;
}

/** The shutter: secures frames, is ready again, and keeps the photos in the order they were shot. */
export function useShutter(options: ShutterOptions): Shutter {
  const engine = useEngine();
  const [busy, setBusy] = useState(false);
  const [keeping, setKeeping] = useState(0);
  const [lastKept, setLastKept] = useState<Shutter['lastKept']>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const inHand = useRef(false);
  const queue = useRef<Promise<unknown>>(Promise.resolve());

  const press = (): void => {
    const { handInId, camera, video, worker, kind, place, merge, onTaken } = options;
    if (inHand.current || camera === null || video.current === null || worker.current === null) return;
    inHand.current = true;
    setBusy(true);
    setProblem(null);
    const { secured, shot } = takeShot(video.current, camera, worker.current, merge);
    const ready = (): void => {
      inHand.current = false;
      setBusy(false);
    };
    secured.then(() => {
      ready();
      shutterFeedback(useSettingsStore.getState());
      onTaken();
    }, ready);
    setKeeping((n) => n + 1);
    queue.current = queue.current
      .then(() => shot)
      .then((taken) => keepShot(engine, handInId, taken, kind, place))
      .then((pageId) => setLastKept({ pageId, place: place.to }))
      .catch((error: unknown) => setProblem(errorText(error, t`The camera gave no picture. Shoot again.`)))
      .finally(() => setKeeping((n) => n - 1));
  };
  const forgetLast = useCallback(() => setLastKept(null), []);
  return { busy, keeping, lastKept, problem, press, forgetLast };
}
