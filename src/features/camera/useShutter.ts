import { t } from '@lingui/core/macro';
import { useCallback, useRef, useState, type RefObject } from 'react';
import type { Page } from '../../../core/work/hand-in/handIn';
import type { PageKind } from '../../../core/work/paper/pageKind';
import { fillFrom, keepShot, type ShotPlace } from './keepShot';
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
  /** Fills the reflections on a page from a photo that was taken elsewhere. */
  readonly fill: (page: Page, file: File) => void;
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

  const keepInTurn = (to: ShotPlace['to'], keep: () => Promise<string>): void => {
    setKeeping((n) => n + 1);
    setProblem(null);
    queue.current = queue.current
      .then(keep)
      .then((pageId) => setLastKept({ pageId, place: to }))
      .catch((error: unknown) =>
        setProblem(
          errorText(
            error,
            to === 'fill'
              ? t`The reflection could not be filled. The page is as it was.`
              : t`The camera gave no picture. Shoot again.`,
          ),
        ),
      )
      .finally(() => setKeeping((n) => n - 1));
  };
  const press = (): void => {
    const { handInId, camera, video, worker, kind, place, merge, onTaken } = options;
    if (inHand.current || camera === null || video.current === null || worker.current === null) return;
    inHand.current = true;
    setBusy(true);
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
    keepInTurn(place.to, () => shot.then((taken) => keepShot(engine, handInId, taken, kind, place)));
  };
  const fill = (page: Page, file: File): void =>
    keepInTurn('fill', () => fillFrom(engine, options.handInId, page, { blob: file, fileName: file.name }));
  const forgetLast = useCallback(() => setLastKept(null), []);
  return { busy, keeping, lastKept, problem, press, fill, forgetLast };
}
