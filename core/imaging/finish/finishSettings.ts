/** The ways a page can be lit, in the order they are offered. */
export const FINISHES = ['asshot', 'daylight', 'pencil', 'press', 'board'] as const;
export type Finish = (typeof FINISHES)[number];

/** Whether a finish has two levels only, and is coded as such. */
export const isBilevel = (finish: Finish): boolean => finish === 'press';

/** How a finish is set; all but the switches run from -1 to 1, strength and sharpness from 0 to 1. */
export interface LightSettings {
  /** How far from the photo's light to the finish's. */
  readonly strength: number;
  readonly brightness: number;
  readonly contrast: number;
  readonly colour: number;
  readonly sharpness: number;
  /** Ruled lines and squares go faint; Pencil. */
  readonly fadeRules: boolean;
  /** A dark board is turned into dark writing on white; Board. */
  readonly invert: boolean;
}

/** The finish as it is meant. */
export const PLAIN_LIGHT: LightSettings = {
  strength: 1,
  brightness: 0,
  contrast: 0,
  colour: 0,
  sharpness: 0,
  fadeRules: false,
  invert: false,
};

/** What a person can set by hand, in the order it is offered. */
export const SLIDERS = [
  'strength',
  'brightness',
  'contrast',
  'colour',
  'sharpness',
] as const satisfies readonly (keyof LightSettings)[];
export type Slider = (typeof SLIDERS)[number];

/** Lowest value of each slider; the highest is 1. */
export const SLIDER_LOWEST: Readonly<Record<Slider, number>> = {
  strength: 0,
  brightness: -1,
  contrast: -1,
  colour: -1,
  sharpness: 0,
};

/** Whether nothing was set by hand. */
export const isPlainLight = (light: LightSettings): boolean =>
  (Object.keys(PLAIN_LIGHT) as (keyof LightSettings)[]).every((key) => light[key] === PLAIN_LIGHT[key]);

/** What is wrong with settings that came from elsewhere, or null. */
export function lightProblem(light: unknown): string | null {
  if (typeof light !== 'object' || light === null) return 'The light has no settings. Choose a finish again.';
  const values = light as Partial<Record<keyof LightSettings, unknown>>;
  for (const slider of SLIDERS) {
    const value = values[slider];
    if (typeof value !== 'number' || !(value >= SLIDER_LOWEST[slider] && value <= 1))
      return `The ${slider} must lie between ${SLIDER_LOWEST[slider]} and 1.`;
  }
  if (typeof values.fadeRules !== 'boolean' || typeof values.invert !== 'boolean')
    return 'fadeRules and invert must be true or false.';
  return null;
}
