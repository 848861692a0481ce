import { t } from '@lingui/core/macro';
import { RESOLUTIONS, type Resolution } from '../../preferences/settingsStore';

/** Why there is no picture; each has its own way on. */
export const CAMERA_PROBLEMS = ['insecure', 'missing', 'denied', 'busy', 'failed'] as const;
export type CameraProblem = (typeof CAMERA_PROBLEMS)[number];

export class NoCamera extends Error {
  override readonly name = 'NoCamera';
  constructor(
    readonly problem: CameraProblem,
    options?: ErrorOptions,
  ) {
    super(problem, options);
  }
}

/** An open camera and what it can do. */
export interface Camera {
  readonly stream: MediaStream;
  readonly id: string;
  readonly hasTorch: boolean;
  readonly zoom: { readonly min: number; readonly max: number; readonly step: number } | null;
  /** Set for the practice table, which has no lens to set and takes a page away once it is shot. */
  readonly practice: { readonly layNext: () => void } | null;
  readonly stop: () => void;
}

export interface CameraChoice {
  readonly id: string;
  readonly label: string;
}

const PROBLEMS: Readonly<Record<string, CameraProblem>> = {
  NotAllowedError: 'denied',
  SecurityError: 'insecure',
  NotFoundError: 'missing',
  OverconstrainedError: 'missing',
  DevicesNotFoundError: 'missing',
  NotReadableError: 'busy',
  TrackStartError: 'busy',
  AbortError: 'busy',
};

/**
 * Opens the rear camera, or the one chosen, at its highest useful resolution.
 * @throws NoCamera
 */
export async function openCamera(resolution: Resolution, cameraId: string | null): Promise<Camera> {
  const devices = (navigator as { mediaDevices?: MediaDevices }).mediaDevices;
  if (!window.isSecureContext || devices === undefined) throw new NoCamera('insecure');
  const longSide = RESOLUTIONS[resolution];
  const size = { width: { ideal: longSide }, height: { ideal: Math.round(longSide * 0.75) } };
  const which = cameraId === null ? { facingMode: { ideal: 'environment' } } : { deviceId: { exact: cameraId } };
  try {
    const stream = await devices.getUserMedia({ audio: false, video: { ...size, ...which } });
    return describeCamera(stream, null, () => stream.getTracks().forEach((track) => track.stop()));
  } catch (cause) {
    throw new NoCamera(PROBLEMS[(cause as { name?: string }).name ?? ''] ?? 'failed', { cause });
  }
}

/** Reads from a stream what its camera can do. */
export function describeCamera(stream: MediaStream, practice: Camera['practice'], stop: () => void): Camera {
  const [track] = stream.getVideoTracks();
  // torch and zoom are not in the DOM's types yet (W3C MediaStream Image Capture)
  const can = (track?.getCapabilities?.() ?? {}) as {
    torch?: boolean;
    zoom?: { min: number; max: number; step: number };
  };
  return {
    stream,
    id: track?.getSettings?.().deviceId ?? '',
    hasTorch: can.torch === true,
    zoom: can.zoom !== undefined && can.zoom.max > can.zoom.min ? can.zoom : null,
    practice,
    stop,
  };
}

/** All cameras, once one may be used: before that they have no names. */
export async function listCameras(): Promise<readonly CameraChoice[]> {
  const all = await navigator.mediaDevices.enumerateDevices();
  return all
    .filter(({ kind }) => kind === 'videoinput')
    .map(({ deviceId, label }, i) => ({ id: deviceId, label: label === '' ? t`Camera ${{ i: i + 1 }}` : label }));
}

/** Sets torch or zoom; false where the device refuses. */
export async function setLens(
  camera: Camera,
  lens: { readonly torch?: boolean; readonly zoom?: number },
): Promise<boolean> {
  try {
    await camera.stream.getVideoTracks()[0]?.applyConstraints({ advanced: [lens as MediaTrackConstraintSet] });
    return true;
  } catch {
    return false;
  }
}
