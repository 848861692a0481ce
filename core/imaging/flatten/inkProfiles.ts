import type { Plane } from '../raster/plane';

/** Strips a page is cut into across its lines: fewer blur lines that climb, more have too little ink each. */
export const STRIPS = 32;

/**
 * Ink down each strip of a page: how much darker than white its rows are, on average, in levels.
 * @returns STRIPS profiles from left to right, a value a row
 */
export const inkProfiles = ({ width, height, data }: Plane): Float32Array[] =>
  Array.from({ length: STRIPS }, (_, k) => {
    const [from, to] = [Math.floor((k * width) / STRIPS), Math.floor(((k + 1) * width) / STRIPS)];
    const profile = new Float32Array(height);
    for (let y = 0; y < height; y++) profile[y] = 255 - meanOf(data, y * width + from, y * width + to);
    return profile;
  });

function meanOf(values: Float32Array, from: number, end: number): number {
  let sum = 0;
  for (let i = from; i < end; i++) sum += values[i]!;
  return sum / (end - from);
}

/** The means of a profile over so many rows to either side; fewer at its ends. */
export function smoothProfile(profile: Float32Array, reach: number): Float32Array {
  if (reach === 0) return profile;
  const out = new Float32Array(profile.length);
  let sum = 0;
  let count = 0;
  for (let y = -reach; y < profile.length; y++) {
    if (y + reach < profile.length) {
      sum += profile[y + reach]!;
      count++;
    }
    if (y - reach - 1 >= 0) {
      sum -= profile[y - reach - 1]!;
      count--;
    }
    if (y >= 0) out[y] = sum / count;
  }
  return out;
}
