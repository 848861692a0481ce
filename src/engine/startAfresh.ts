import type { RunningEngine } from './createEngine';

/** Loads the app as on a device that was never used, once everything is off it. */
export function beginAgain(): void {
  localStorage.clear();
  window.location.replace('/');
}

/** Takes everything off this device, and begins as somebody new. */
export async function startAfresh(engine: RunningEngine): Promise<void> {
  await engine.wipe();
  beginAgain();
}
