import type { Settings } from '../../preferences/settingsStore';

/** A browser gives a page only a few: one is made for the first tick, and kept for all. */
let audio: AudioContext | null = null;

/** A short tick and a short buzz, each where the person wants it. */
export function shutterFeedback({ sound, vibration }: Pick<Settings, 'sound' | 'vibration'>): void {
  if (vibration) navigator.vibrate?.(25);
  if (!sound || typeof AudioContext === 'undefined') return;
  audio ??= new AudioContext();
  const tone = audio.createOscillator();
  const level = audio.createGain();
  tone.type = 'triangle';
  tone.frequency.value = 1350;
  level.gain.setValueAtTime(0.12, audio.currentTime);
  level.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.07);
  tone.connect(level).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + 0.08);
}
