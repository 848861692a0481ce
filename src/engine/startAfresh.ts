import type { RunningEngine } from './createEngine';

/** Takes everything off this device, and begins as somebody new. */
export async function startAfresh(engine: RunningEngine): Promise<void> {
  await engine.wipe();
  localStorage.clear();
  window.location.replace('/');
}
