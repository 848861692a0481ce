import type { MessageDescriptor } from '@lingui/core';
import { msg } from '@lingui/core/macro';
import type { Coaching } from '../../../core/imaging/live/coach';
import type { PageKind } from '../../../core/work/paper/pageKind';
import type { CameraProblem } from './openCamera';

/** One line at a time, the fix first. */
export const COACHING_WORDS: Readonly<Record<Coaching, MessageDescriptor>> = {
  looking: msg`Looking for the page`,
  tooDark: msg`Too dark: bring a lamp nearer`,
  sideOut: msg`A side is out of view: lift the phone`,
  comeCloser: msg`Come closer`,
  tiltFlat: msg`Tilt the phone flat`,
  glare: msg`Glare here: move the lamp or the phone`,
  holdStill: msg`Hold still`,
  ready: msg`Good: shoot`,
};

export const KIND_WORDS: Readonly<
  Record<PageKind, { readonly name: MessageDescriptor; readonly says: MessageDescriptor }>
> = {
  sheet: { name: msg`Sheet`, says: msg`one side of paper` },
  spread: { name: msg`Spread`, says: msg`an open book or notebook, becomes two pages` },
  board: { name: msg`Board`, says: msg`a whiteboard or blackboard` },
  card: { name: msg`Card`, says: msg`a small card, kept at its true size` },
  picture: { name: msg`Picture`, says: msg`a drawing or photo, colours kept as they are` },
};

export const CAMERA_HELP: Readonly<
  Record<
    CameraProblem,
    { readonly title: MessageDescriptor; readonly text: MessageDescriptor; readonly again: boolean }
  >
> = {
  denied: {
    title: msg`The camera is switched off for this page`,
    text: msg`Tap the icon next to the address, allow the camera for this page, then try again.`,
    again: true,
  },
  missing: {
    title: msg`No camera was found`,
    text: msg`Plug one in and try again, or add photos that were taken elsewhere.`,
    again: true,
  },
  busy: {
    title: msg`Another program has the camera`,
    text: msg`Close the call or program that uses it, then try again.`,
    again: true,
  },
  insecure: {
    title: msg`The camera needs a secure address`,
    text: msg`This address is not secure, so the browser keeps the camera shut. Open the https address that the server printed at its start.`,
    again: false,
  },
  failed: {
    title: msg`The camera did not start`,
    text: msg`Try again. If it stays dark, close the browser and open it once more; all pages are kept.`,
    again: true,
  },
};
