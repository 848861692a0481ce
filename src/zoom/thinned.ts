import type { Point } from '../../core/imaging/geometry/point';

/** A long stroke with every so many of its places left out, so that it stays one. */
export function thinned(places: readonly Point[], most: number): readonly Point[] {
  const every = Math.ceil(places.length / most);
  return places.filter((_, i) => i % every === 0 || i === places.length - 1).slice(0, most);
}
