import type { Point } from '../geometry/point';

/** One stroke of the mending brush, in px of the upright original: it stays on the thumb when the edges move. */
export interface Mend {
  readonly points: readonly Point[];
  readonly radius: number;
}

/** Strokes of a page at most: more than anybody paints by hand; what comes from elsewhere is held to it. */
export const MOST_MENDS = 400;
/** Points of a stroke at most. */
export const MOST_MEND_POINTS = 200;

/** What is wrong with mends that came from elsewhere, or null. */
export function mendsProblem(mends: unknown): string | null {
  if (!Array.isArray(mends) || mends.length > MOST_MENDS)
    return `A page can have ${MOST_MENDS} mends at most. Undo some of them.`;
  const isNumber = (value: unknown): boolean => typeof value === 'number' && Number.isFinite(value);
  const isPoint = (p: unknown): boolean => isNumber((p as Point | null)?.x) && isNumber((p as Point).y);
  const isMend = (mend: unknown): boolean => {
    const { points, radius } = (mend ?? {}) as Partial<Mend>;
    return (
      Array.isArray(points) &&
      points.length > 0 &&
      points.length <= MOST_MEND_POINTS &&
      points.every(isPoint) &&
      isNumber(radius) &&
      radius! > 0
    );
  };
  return mends.every(isMend)
    ? null
    : `A mend needs 1 to ${MOST_MEND_POINTS} points and a radius above 0. Paint it again.`;
}
