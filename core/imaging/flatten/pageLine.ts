import { scalePoint, type Point } from '../geometry/point';

/** A line that stands on a page, straight on the paper, as it lies in the photo. */
export interface PageLine {
  /** Whether it runs across the page as it is read, or down it. */
  readonly along: 'across' | 'down';
  /** How far its places stray from a smooth course, px of the photo (standard deviation). */
  readonly strayPx: number;
  /** Places on it, px of the photo, in the order in which they lie on it; LINE_PLACES at most. */
  readonly points: readonly Point[];
}

/** Lines that are kept of those that run one way: more say nothing new. */
export const MOST_LINES = 16;
/** Places that are kept of a line. */
export const LINE_PLACES = 7;
/** Fewer lines say nothing of how a page lies. */
export const MIN_LINES = 6;

/** The same lines in a photo that is `factor` times as large. */
export const scaleLines = (lines: readonly PageLine[], factor: number): PageLine[] =>
  lines.map(({ along, strayPx, points }) => ({
    along,
    strayPx: strayPx * factor,
    points: points.map((p) => scalePoint(p, factor)),
  }));

/** The lines of the same page when its corners are renamed by turnQuad. */
export const turnLines = (lines: readonly PageLine[], quarterTurns: number): readonly PageLine[] =>
  quarterTurns % 2 === 0
    ? lines
    : lines.map((line) => ({ ...line, along: line.along === 'across' ? 'down' : 'across' }));

const isLine = (line: unknown): boolean => {
  const { along, strayPx, points } = (line ?? {}) as { along?: unknown; strayPx?: unknown; points?: unknown };
  return (
    (along === 'across' || along === 'down') &&
    isMeasure(strayPx) &&
    strayPx >= 0 &&
    Array.isArray(points) &&
    points.length >= 3 &&
    points.length <= LINE_PLACES &&
    points.every((p: { x?: unknown; y?: unknown } | null) => isMeasure(p?.x) && isMeasure(p.y))
  );
};

const isMeasure = (value: unknown): value is number => typeof value === 'number' && Number.isFinite(value);

/** What is wrong with something that should be the lines of a page, in a sentence; null where it is that. */
export const linesProblem = (lines: unknown): string | null =>
  Array.isArray(lines) && lines.length <= 2 * MOST_LINES && lines.every(isLine)
    ? null
    : `The page’s lines must be at most ${2 * MOST_LINES}, with 3 to ${LINE_PLACES} places each. Find the edges again.`;
