import { cross, type Point } from './point';
import { applyHomography, homographyBetween } from './homography';
import { polygonArea, wholePicture, type Quad } from './quad';

/** The part of a polygon inside a convex clockwise polygon (Sutherland & Hodgman 1974). */
export function clipPolygon(subject: readonly Point[], clip: readonly Point[]): Point[] {
  let out: Point[] = [...subject];
  for (let i = 0; i < clip.length && out.length > 0; i++) {
    const a = clip[i]!;
    const b = clip[(i + 1) % clip.length]!;
    const input = out;
    out = [];
    for (let j = 0; j < input.length; j++) {
      const p = input[j]!;
      const q = input[(j + 1) % input.length]!;
      const sp = cross(a, b, p);
      const sq = cross(a, b, q);
      if (sp >= 0) out.push(p);
      if (sp >= 0 !== sq >= 0) {
        const t = sp / (sp - sq);
        out.push({ x: p.x + (q.x - p.x) * t, y: p.y + (q.y - p.y) * t });
      }
    }
  }
  return out;
}

/** Area of overlap over area of union of two clockwise polygons, the second convex; 0 to 1. */
export function jaccardIndex(subject: readonly Point[], convex: readonly Point[]): number {
  const inter = Math.abs(polygonArea(clipPolygon(subject, convex)));
  const union = Math.abs(polygonArea(subject)) + Math.abs(polygonArea(convex)) - inter;
  return union > 0 ? inter / union : 0;
}

/**
 * Jaccard index of a found outline against the true one, measured on the paper and not in the photo, so that the far
 * side of a tilted page counts as much as the near side.
 * Method: Burie et al., ICDAR 2015 competition on smartphone document capture, section on challenge 1.
 * @param found - corners in photo pixels
 * @param truth - the true corners in the same pixels, TL, TR, BR, BL
 * @param aspect - width over height of the paper
 * @returns 0 (nothing in common, or not a usable outline) to 1
 */
export function pageJaccard(found: Quad, truth: Quad, aspect: number): number {
  const page = wholePicture(aspect * 1000, 1000);
  const toPage = homographyBetween(truth, page);
  // a corner beyond the page plane's horizon would come back mirrored
  const horizon = (p: Point): number => toPage[6] * p.x + toPage[7] * p.y + toPage[8];
  const sign = Math.sign(horizon(truth[0]));
  if (found.some((p) => Math.sign(horizon(p)) !== sign)) return 0;
  const mapped = found.map((p) => applyHomography(toPage, p));
  return jaccardIndex(polygonArea(mapped) < 0 ? [...mapped].reverse() : mapped, page);
}
