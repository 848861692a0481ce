/**
 * Where the top of a parabola through three neighbouring samples lies, in samples from the middle one.
 * @returns -0.5 to 0.5 where the middle sample is the largest; 0 where the three do not curve downwards
 */
export function peakOffset(before: number, middle: number, after: number): number {
  const curvature = before - 2 * middle + after;
  return curvature < 0 ? (0.5 * (before - after)) / curvature : 0;
}
