import type { Finish, Slider } from '../../core/finish/light';

export const FINISH_WORDS: Readonly<Record<Finish, { readonly name: string; readonly says: string }>> = {
  asshot: { name: 'As shot', says: 'straight, but lit as in the photo' },
  daylight: { name: 'Daylight', says: 'white paper, true colours, no shadow' },
  pencil: { name: 'Pencil', says: 'grey, with faint strokes lifted' },
  press: { name: 'Press', says: 'black on white only, the smallest file' },
  board: { name: 'Board', says: 'for white and dark boards: strong colours, no glare' },
};

export const SLIDER_WORDS: Readonly<Record<Slider, string>> = {
  strength: 'Strength',
  brightness: 'Brightness',
  contrast: 'Contrast',
  colour: 'Colour',
  sharpness: 'Sharpness',
};

/** Where five stand in a row on a phone. */
export const SLIDER_SHORT: Readonly<Record<Slider, string>> = {
  ...SLIDER_WORDS,
  brightness: 'Bright',
  sharpness: 'Sharp',
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
export const SUGGESTION_WORDS: Readonly<Record<Finish, string>> = {
  asshot: 'it is a picture',
  daylight: 'there is colour on it',
  pencil: 'it is written in pencil',
  press: 'it is black on white',
  board: 'it is a board',
};
