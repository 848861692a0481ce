import { quantile } from '../../imaging/raster/quantile';

/** A word on a page, in px. */
export interface PlacedWord {
  readonly text: string;
  readonly x0: number;
  readonly x1: number;
  /** What its letters stand on. */
  readonly baseline: number;
  /** From there to the top of a tall letter. */
  readonly tall: number;
  /** How sure the engine is of it, 0 to 1. */
  readonly confidence: number;
  /** Words that were read as one piece have the same number, and stand in the order in which they were read. */
  readonly piece: number;
}

/** A gutter is at least so wide, in heights of a tall letter: a space is a third of one. */
const GUTTER = 1.3;
/** A column has so many lines at least, and so many words to a line on average: what has fewer is a table, and is read across. */
const COLUMN_LINES = 3;
const COLUMN_WORDS = 2.5;
/** Baselines within this share of a tall letter are of one line. */
const SAME_LINE = 0.5;
/** Pieces of one line may overlap sideways by this share of a tall letter. */
const OVERLAP = 0.5;
/** A word that is larger or smaller than its line by this factor keeps its own size. */
const OTHER_SIZE = 1.5;

const RIGHT_TO_LEFT = /[\p{Script=Arabic}\p{Script=Hebrew}]/u;
const median = (values: readonly number[]): number => quantile(values, 0.5, 0);

/**
 * The lines of a page in the order in which they are read: columns one after another, tables row by row. All words of a line
 * stand on one baseline and are of one size, so that selecting and searching find it whole.
 * Method: the recursive X–Y cut (Nagy & Seth, "Hierarchical representation of optically scanned documents", ICPR 1984), which
 * here cuts only between columns of text and above and below them.
 */
export function readingOrder(words: readonly PlacedWord[]): PlacedWord[][] {
  const backwards = words.filter(({ text }) => RIGHT_TO_LEFT.test(text)).length > words.length / 2;
  return cut(words, backwards).map(onOneBaseline);
}

function cut(words: readonly PlacedWord[], backwards: boolean): PlacedWord[][] {
  const columns = columnsOf(words);
  if (columns !== null) {
    const [left, right] = columns.map((column) => cut(column, backwards));
    return backwards ? [...right!, ...left!] : [...left!, ...right!];
  }
  const parts = aroundColumns(words);
  return parts === null ? linesOf(words, backwards) : parts.flatMap((part) => cut(part, backwards));
}

/** The words left and right of the widest gutter between two columns of text; null where there is none. */
function columnsOf(words: readonly PlacedWord[]): [PlacedWord[], PlacedWord[]] | null {
  const least = GUTTER * median(words.map(({ tall }) => tall));
  const byStart = [...words].sort((p, q) => p.x0 - q.x0);
  let best: [PlacedWord[], PlacedWord[]] | null = null;
  let widest = least;
  let end = -Infinity;
  byStart.forEach((word, k) => {
    if (k > 0 && word.x0 - end >= widest) {
      const sides: [PlacedWord[], PlacedWord[]] = [byStart.slice(0, k), byStart.slice(k)];
      if (sides.every(isColumn)) {
        best = sides;
        widest = word.x0 - end;
      }
    }
    end = Math.max(end, word.x1);
  });
  return best;
}

function isColumn(words: readonly PlacedWord[]): boolean {
  const lines = linesOf(words, false).length;
  return lines >= COLUMN_LINES && words.length >= COLUMN_WORDS * lines;
}

/** What stands above and below of where most words stand in columns; null where none do. */
function aroundColumns(words: readonly PlacedWord[]): [PlacedWord[], PlacedWord[]] | null {
  const lines = linesOf(words, false);
  let best: [PlacedWord[], PlacedWord[]] | null = null;
  let most = 0;
  for (let k = 1; k < lines.length; k++) {
    const parts: [PlacedWord[], PlacedWord[]] = [lines.slice(0, k).flat(), lines.slice(k).flat()];
    for (const part of parts)
      if (part.length > most && columnsOf(part) !== null) {
        best = parts;
        most = part.length;
      }
  }
  return best;
}

/** The words in lines from top to bottom, each from where reading starts. */
function linesOf(words: readonly PlacedWord[], backwards: boolean): PlacedWord[][] {
  const byPiece = new Map<number, PlacedWord[]>();
  for (const word of words) byPiece.set(word.piece, [...(byPiece.get(word.piece) ?? []), word]);
  const pieces = [...byPiece.values()].map((piece) => ({
    words: piece,
    baseline: median(piece.map(({ baseline }) => baseline)),
    tall: median(piece.map(({ tall }) => tall)),
    x0: Math.min(...piece.map(({ x0 }) => x0)),
    x1: Math.max(...piece.map(({ x1 }) => x1)),
  }));
  const lines: (typeof pieces)[] = [];
  for (const piece of pieces.sort((p, q) => p.baseline - q.baseline)) {
    const line = lines.findLast((other) => {
      const apart = Math.abs(median(other.map(({ baseline }) => baseline)) - piece.baseline);
      const overlap = OVERLAP * piece.tall;
      return (
        apart < SAME_LINE * piece.tall &&
        other.every(({ x0, x1 }) => piece.x0 > x1 - overlap || piece.x1 < x0 + overlap)
      );
    });
    if (line === undefined) lines.push([piece]);
    else line.push(piece);
  }
  return lines.map((line) =>
    line.sort((p, q) => (backwards ? q.x0 - p.x0 : p.x0 - q.x0)).flatMap((piece) => piece.words),
  );
}

function onOneBaseline(line: readonly PlacedWord[]): PlacedWord[] {
  const baseline = median(line.map((word) => word.baseline));
  const tall = median(line.map((word) => word.tall));
  const isOther = (own: number): boolean => own > OTHER_SIZE * tall || tall > OTHER_SIZE * own;
  return line.map((word) => ({ ...word, baseline, tall: isOther(word.tall) ? word.tall : tall }));
}
