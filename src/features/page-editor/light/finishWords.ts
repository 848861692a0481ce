import type { MessageDescriptor } from '@lingui/core';
import { msg } from '@lingui/core/macro';
import type { Finish, Slider } from '../../../../core/imaging/finish/finishSettings';

export const FINISH_WORDS: Readonly<
  Record<Finish, { readonly name: MessageDescriptor; readonly says: MessageDescriptor }>
> = {
  asshot: { name: msg`As shot`, says: msg`straight, but lit as in the photo` },
  daylight: { name: msg`Daylight`, says: msg`white paper, true colours, no shadow` },
  pencil: { name: msg`Pencil`, says: msg`grey, with faint strokes lifted` },
  press: { name: msg`Press`, says: msg`black on white only, the smallest file` },
  board: { name: msg`Board`, says: msg`for white and dark boards: strong colours, no glare` },
};

export const SLIDER_WORDS: Readonly<Record<Slider, MessageDescriptor>> = {
  strength: msg`Strength`,
  brightness: msg`Brightness`,
  contrast: msg`Contrast`,
  colour: msg`Colour`,
  sharpness: msg`Sharpness`,
};

/** Where five stand in a row on a phone. */
export const SLIDER_SHORT: Readonly<Record<Slider, MessageDescriptor>> = {
  ...SLIDER_WORDS,
  brightness: msg`Bright`,
  sharpness: msg`Sharp`,
};

/** The sliders that change something in each finish. */
export const SLIDERS_OF: Readonly<Record<Finish, readonly Slider[]>> = {
  asshot: ['brightness', 'contrast', 'colour', 'sharpness'],
  daylight: ['strength', 'brightness', 'contrast', 'colour', 'sharpness'],
  pencil: ['strength', 'brightness', 'contrast', 'sharpness'],
  press: ['brightness'],
  board: ['strength', 'brightness', 'contrast', 'colour', 'sharpness'],
};

/** Why a finish is suggested. */
export const SUGGESTION_WORDS: Readonly<Record<Finish, MessageDescriptor>> = {
  asshot: msg`it is a picture`,
  daylight: msg`there is colour on it`,
  pencil: msg`it is written in pencil`,
  press: msg`it is black on white`,
  board: msg`it is a board`,
};
