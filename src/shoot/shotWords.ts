import type { Coaching } from '../../core/live/coach';
import type { ShotFinding } from '../../core/quality/shotFindings';
import type { PageKind } from '../../core/recipe/recipe';
import type { CameraProblem } from '../camera/openCamera';

/** One line at a time, the fix first. */
export const COACHING_WORDS: Readonly<Record<Coaching, string>> = {
  looking: 'Looking for the page',
  tooDark: 'Too dark: bring a lamp nearer',
  sideOut: 'A side is out of view: lift the phone',
  comeCloser: 'Come closer',
  tiltFlat: 'Tilt the phone flat',
  glare: 'Glare here: move the lamp or the phone',
  holdStill: 'Hold still',
  ready: 'Good: shoot',
};

export const FINDING_WORDS: Readonly<Record<ShotFinding, string>> = {
  blurred: 'blurred',
  cut: 'edge cut off',
  glare: 'reflection',
  thumb: 'finger in it',
  lowDetail: 'low detail',
  dark: 'too dark',
};

export const KIND_WORDS: Readonly<Record<PageKind, { readonly name: string; readonly says: string }>> = {
  sheet: { name: 'Sheet', says: 'one side of paper' },
  spread: { name: 'Spread', says: 'an open book or notebook, becomes two pages' },
  board: { name: 'Board', says: 'a whiteboard or blackboard' },
  card: { name: 'Card', says: 'a small card, kept at its true size' },
  picture: { name: 'Picture', says: 'a drawing or photo, colours kept as they are' },
};

export const CAMERA_HELP: Readonly<
  Record<CameraProblem, { readonly title: string; readonly text: string; readonly again: boolean }>
> = {
  denied: {
    title: 'The camera is switched off for this page',
    text: 'Tap the icon next to the address, allow the camera for this page, then try again.',
    again: true,
  },
  missing: {
    title: 'No camera was found',
    text: 'Plug one in and try again, or add photos that were taken elsewhere.',
    again: true,
  },
  busy: {
    title: 'Another program has the camera',
    text: 'Close the call or program that uses it, then try again.',
    again: true,
  },
  insecure: {
    title: 'The camera needs a secure address',
    text: 'This address is not secure, so the browser keeps the camera shut. Open the https address that the server printed at its start.',
    again: false,
  },
  failed: {
    title: 'The camera did not start',
    text: 'Try again. If it stays dark, close the browser and open it once more; all pages are kept.',
    again: true,
  },
};
