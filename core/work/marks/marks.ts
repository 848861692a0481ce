import { getStroke } from 'perfect-freehand';
import type { Point } from '../../imaging/geometry/point';

/*
 * What a person writes on top of a page. Places are shares of the page's width and height as it is read, so marks stay where
 * they are at every size; widths are shares of its long side.
 */

export const MARK_COLOURS = ['#1d2733', '#1f4f9e', '#a3243b', '#2f6b3a', '#e6b800'] as const;
export type MarkColour = (typeof MARK_COLOURS)[number];

/** A stroke of a pen, of a broad pale one, or of a signature; the strokes of one signature share a group. */
export interface StrokeMark {
  readonly kind: 'pen' | 'highlighter' | 'signature';
  readonly id: string;
  readonly colour: MarkColour;
  /** Of the long side. */
  readonly width: number;
  readonly points: readonly Point[];
  readonly group?: string;
}

/** A short text, its first line beginning at a place. */
export interface NoteMark {
  readonly kind: 'note';
  readonly id: string;
  readonly colour: MarkColour;
  readonly at: Point;
  readonly text: string;
}

export type Mark = StrokeMark | NoteMark;

export const MARK_LIMITS = { marks: 600, points: 2000, text: 500 } as const;
/** Height of a note's line as a share of the long side: 4.5 mm of A4. */
export const NOTE_LINE = 0.0152;
/** A highlighter is seen through. */
export const HIGHLIGHTER_OPACITY = 0.42;

const isShare = (value: unknown): boolean => typeof value === 'number' && value >= -0.5 && value <= 1.5;
const isPlace = (p: unknown): boolean => isShare((p as Point | null)?.x) && isShare((p as Point).y);

/** Says what is wrong with marks, or null. */
export function marksProblem(marks: unknown): string | null {
  if (!Array.isArray(marks)) return 'Marks must be a list.';
  if (marks.length > MARK_LIMITS.marks) return `A page takes up to ${MARK_LIMITS.marks} marks. Rub some out.`;
  for (const mark of marks as (Partial<Omit<StrokeMark, 'kind'>> &
    Partial<Omit<NoteMark, 'kind'>> & { readonly kind?: string })[]) {
    if (typeof mark?.id !== 'string' || !MARK_COLOURS.includes(mark.colour!)) return 'A mark needs an id and a colour.';
    if (mark.kind === 'note') {
      if (!isPlace(mark.at) || typeof mark.text !== 'string' || mark.text.length > MARK_LIMITS.text)
        return `A note needs a place and at most ${MARK_LIMITS.text} characters.`;
    } else if (
      !['pen', 'highlighter', 'signature'].includes(mark.kind!) ||
      !Array.isArray(mark.points) ||
      mark.points.length === 0 ||
      mark.points.length > MARK_LIMITS.points ||
      !mark.points.every(isPlace) ||
      typeof mark.width !== 'number' ||
      !(mark.width > 0 && mark.width < 0.1)
    ) {
      return 'A stroke needs points on the page and a width.';
    }
  }
  return null;
}

/** The same marks on the page turned clockwise by quarter turns. */
export function turnMarks(marks: readonly Mark[], turns: number): readonly Mark[] {
  const once = (p: Point): Point => ({ x: 1 - p.y, y: p.x });
  const turned = (p: Point): Point => Array.from({ length: ((turns % 4) + 4) % 4 }).reduce<Point>(once, p);
  return marks.map((mark) =>
    mark.kind === 'note' ? { ...mark, at: turned(mark.at) } : { ...mark, points: mark.points.map(turned) },
  );
}

/**
 * The outline of a stroke on a page of this size, in the page's units, y down.
 * @returns corners of a closed polygon
 */
export function strokeOutline(
  { kind, points, width }: StrokeMark,
  pageWidth: number,
  pageHeight: number,
): readonly (readonly [number, number])[] {
  const long = Math.max(pageWidth, pageHeight);
  const flat = kind === 'highlighter';
  return getStroke(
    points.map(({ x, y }) => [x * pageWidth, y * pageHeight]),
    {
      size: width * long,
      thinning: flat ? 0 : 0.45,
      smoothing: 0.5,
      streamline: 0.4,
      simulatePressure: !flat,
      last: true,
    },
  );
}

/** Distance from a place to the nearest point of a mark, in shares of the long side. */
export function distanceToMark(mark: Mark, at: Point, pageWidth: number, pageHeight: number): number {
  const long = Math.max(pageWidth, pageHeight);
  const away = (p: Point): number => Math.hypot((p.x - at.x) * pageWidth, (p.y - at.y) * pageHeight) / long;
  if (mark.kind !== 'note') return Math.max(0, Math.min(...mark.points.map(away)) - mark.width / 2);
  const lines = mark.text.split('\n');
  const right = mark.at.x + (Math.max(...lines.map(({ length }) => length)) * NOTE_LINE * 0.45 * long) / pageWidth;
  const bottom = mark.at.y + (lines.length * NOTE_LINE * 1.25 * long) / pageHeight;
  return away({ x: Math.min(right, Math.max(mark.at.x, at.x)), y: Math.min(bottom, Math.max(mark.at.y, at.y)) });
}

/** The marks without those touched at a place; a signature goes as a whole. */
export function eraseAt(
  marks: readonly Mark[],
  at: Point,
  reach: number,
  pageWidth: number,
  pageHeight: number,
): readonly Mark[] {
  const hit = marks.filter((mark) => distanceToMark(mark, at, pageWidth, pageHeight) <= reach);
  const groups = new Set(hit.flatMap((mark) => (mark.kind !== 'note' && mark.group !== undefined ? [mark.group] : [])));
  return marks.filter(
    (mark) => !hit.includes(mark) && !(mark.kind !== 'note' && mark.group !== undefined && groups.has(mark.group)),
  );
}
