/** Linear light of a coded value, both 0 to 1 (the sRGB transfer curve, IEC 61966-2-1). */
export const toLinear = (coded: number): number => (coded <= 0.04045 ? coded / 12.92 : ((coded + 0.055) / 1.055) ** 2.4);

/** The coded value of linear light, both 0 to 1. */
export const toCoded = (linear: number): number => (linear <= 0.0031308 ? linear * 12.92 : 1.055 * linear ** (1 / 2.4) - 0.055);
