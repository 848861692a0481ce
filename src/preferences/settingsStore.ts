import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Language } from '../i18n/languages';

/** The long side asked of the camera, in pixels; the device gives the nearest it has. */
export const RESOLUTIONS = { high: 4096, normal: 2048 } as const;
export type Resolution = keyof typeof RESOLUTIONS;

/** What a person likes, on this device. */
export interface Settings {
  readonly resolution: Resolution;
  /** Hands-free is on when the camera opens. */
  readonly handsFree: boolean;
  readonly leftHanded: boolean;
  readonly sound: boolean;
  readonly vibration: boolean;
  readonly tipsSeen: boolean;
  readonly welcomeSeen: boolean;
  /** null: the device's own. */
  readonly language: Language | null;
}

const DEFAULTS: Settings = {
  resolution: 'high',
  handsFree: false,
  leftHanded: false,
  sound: true,
  vibration: true,
  tipsSeen: false,
  welcomeSeen: false,
  language: null,
};

export const useSettingsStore = create<Settings>()(
  persist((): Settings => DEFAULTS, { name: 'fotoplan-settings', version: 1 }),
);

export const changeSettings = (changes: Partial<Settings>): void => {
  useSettingsStore.setState(changes);
};
