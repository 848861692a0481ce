import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Resolution } from '../camera/openCamera';
import type { Language } from '../i18n/languages';

/** What a person likes, on this device. */
export interface Settings {
  readonly resolution: Resolution;
  /** Hands-free is on when the camera opens. */
  readonly handsFree: boolean;
  readonly leftHanded: boolean;
  readonly sound: boolean;
  readonly vibration: boolean;
  readonly tipsSeen: boolean;
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
  language: null,
};

export const useSettingsStore = create<Settings>()(
  persist((): Settings => DEFAULTS, { name: 'fotoplan-settings', version: 1 }),
);

export const changeSettings = (changes: Partial<Settings>): void => {
  useSettingsStore.setState(changes);
};
