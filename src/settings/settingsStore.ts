import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Resolution } from '../camera/openCamera';

/** What a person likes, on this device. */
export interface Settings {
  readonly resolution: Resolution;
  /** Hands-free is on when the camera opens. */
  readonly handsFree: boolean;
  readonly leftHanded: boolean;
  readonly sound: boolean;
  readonly vibration: boolean;
  readonly tipsSeen: boolean;
}

const DEFAULTS: Settings = {
  resolution: 'high',
  handsFree: false,
  leftHanded: false,
  sound: true,
  vibration: true,
  tipsSeen: false,
};

export const useSettingsStore = create<Settings>()(
  persist((): Settings => DEFAULTS, { name: 'fotoplan-settings', version: 1 }),
);

export const changeSettings = (changes: Partial<Settings>): void => {
  useSettingsStore.setState(changes);
};
