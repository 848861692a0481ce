/*
 * How light a colour is. There are two measures, for two kinds of values:
 * - luma, of values as they are coded in a picture (ITU-R BT.601), for everything that compares what is seen;
 * - luminance, of linear light (ITU-R BT.709, the primaries of sRGB), where light is added up: blur and coverage.
 */

/** Shares of red, green and blue in luma. */
export const LUMA = [0.299, 0.587, 0.114] as const;
const [RED, GREEN, BLUE] = LUMA;

/** Shares of red, green and blue in luminance. */
export const LUMINANCE = [0.2126, 0.7152, 0.0722] as const;

/** Luma of coded values, on their scale. */
export const lumaOf = (red: number, green: number, blue: number): number => RED * red + GREEN * green + BLUE * blue;
