/** Linear light of a coded value, both 0 to 1 (the sRGB transfer curve, IEC 61966-2-1). */
export const decodeSrgb = (coded: number): number =>
  coded <= 0.04045 ? coded / 12.92 : ((coded + 0.055) / 1.055) ** 2.4;

/** The coded value of linear light, both 0 to 1. */
export const encodeSrgb = (linear: number): number =>
  linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055;

/** Linear light, 0 to 1, of each level of a byte. */
export const LIGHT_OF_LEVEL = Float32Array.from({ length: 256 }, (_, level) => decodeSrgb(level / 255));

/** Linear light in as many steps as keep the darkest tones apart. */
export const LIGHT_STEPS = 4095;
/** The level of a byte for each step of linear light. */
export const LEVEL_OF_LIGHT = Uint8ClampedArray.from(
  { length: LIGHT_STEPS + 1 },
  (_, step) => 255 * encodeSrgb(step / LIGHT_STEPS),
);
