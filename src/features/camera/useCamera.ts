import { useCallback, useEffect, useRef, useState } from 'react';
import type { Resolution } from '../../preferences/settingsStore';
import {
  listCameras,
  NoCamera,
  openCamera,
  setLens,
  type Camera,
  type CameraChoice,
  type CameraProblem,
} from './openCamera';
import type { ApiClient } from '../../data/apiClient';
import { openPracticeTable } from './practiceTable';

export type CameraState =
  | { readonly state: 'starting' }
  | { readonly state: 'live'; readonly camera: Camera; readonly others: readonly CameraChoice[] }
  | { readonly state: 'none'; readonly problem: CameraProblem };

export interface CameraControl {
  readonly now: CameraState;
  readonly torch: boolean;
  readonly zoom: number;
  readonly open: (cameraId: string | null) => void;
  readonly practise: () => void;
  readonly toggleTorch: () => void;
  readonly zoomTo: (zoom: number) => void;
}

/**
 * Holds one camera while the screen is shown; lets go of it when the screen is left or hidden.
 * @param practice - begin with the practice table
 */
export function useCamera(resolution: Resolution, practice: boolean, api: ApiClient): CameraControl {
  const [now, setNow] = useState<CameraState>({ state: 'starting' });
  const [torch, setTorch] = useState(false);
  const [zoom, setZoom] = useState(1);
  const held = useRef<Camera | null>(null);
  const asked = useRef(0);

  const start = useCallback(async (opening: () => Promise<Camera>): Promise<void> => {
    const turn = ++asked.current;
    held.current?.stop();
    held.current = null;
    setNow({ state: 'starting' });
    setTorch(false);
    try {
      const camera = await opening();
      if (turn !== asked.current) {
        camera.stop();
        return;
      }
      held.current = camera;
      setZoom(camera.zoom?.min ?? 1);
      // unplugged, or taken by another program
      camera.stream
        .getVideoTracks()[0]
        ?.addEventListener('ended', () => turn === asked.current && setNow({ state: 'none', problem: 'busy' }));
      setNow({ state: 'live', camera, others: camera.practice !== null ? [] : await listCameras() });
    } catch (error) {
      if (turn === asked.current)
        setNow({ state: 'none', problem: error instanceof NoCamera ? error.problem : 'failed' });
    }
  }, []);

  /** Whatever is still being opened is let go too, as soon as it comes. */
  const letGo = useCallback((): void => {
    asked.current++;
    held.current?.stop();
    held.current = null;
  }, []);
  const open = useCallback(
    (cameraId: string | null) => void start(() => openCamera(resolution, cameraId)),
    [start, resolution],
  );
  const practise = useCallback(() => void start(() => openPracticeTable(api)), [start, api]);
  useEffect(() => {
    if (practice) practise();
    else open(null);
    return letGo;
  }, [open, practice, practise, letGo]);
  useEffect(() => {
    // a phone call or another tab: the camera is let go, and opened again on return
    const onChange = (): void => {
      if (
        document.visibilityState === 'visible' &&
        held.current?.stream.active === false &&
        held.current.practice === null
      )
        open(held.current.id);
    };
    document.addEventListener('visibilitychange', onChange);
    return () => document.removeEventListener('visibilitychange', onChange);
  }, [open]);

  return {
    now,
    torch,
    zoom,
    open,
    practise,
    toggleTorch: () => {
      if (held.current === null) return;
      void setLens(held.current, { torch: !torch }).then((done) => done && setTorch(!torch));
    },
    zoomTo: (to) => {
      if (held.current === null) return;
      setZoom(to);
      void setLens(held.current, { zoom: to });
    },
  };
}
