import { readingOrder, type PlacedWord } from './readingOrder';

const TALL = 20;
let pieces = 0;

/** A line of words set from x on, each as wide as it is long; read as one piece. */
function line(text: string, x: number, baseline: number, { tall = TALL, slope = 0 } = {}): PlacedWord[] {
  pieces++;
  let x0 = x;
  return text.split(' ').map((word) => {
    const placed = {
      text: word,
      x0,
      x1: x0 + 10 * word.length,
      baseline: baseline + slope * x0,
      tall,
      confidence: 0.9,
      piece: pieces,
    };
    x0 = placed.x1 + 8;
    return placed;
  });
}

const read = (words: readonly PlacedWord[]): string[] =>
  readingOrder(words).map((each) => each.map(({ text }) => text).join(' '));

const column = (name: string, x: number, from: number, lines: number): PlacedWord[][] =>
  Array.from({ length: lines }, (_, k) => line(`${name}${k} has four words`, x, from + 30 * k));

describe('the order in which a page is read', () => {
  it('is one column after another, below a title that runs over both', () => {
    const title = line('A title that is as wide as both of the columns are', 50, 60);
    const left = column('left', 50, 200, 5);
    const right = column('right', 400, 200, 5);
    const words = [...title, ...left.flatMap((each, k) => [...each, ...right[k]!])];
    expect(read(words)).toEqual([title, ...left, ...right].map((each) => each.map(({ text }) => text).join(' ')));
  });

  it('is the same where the engine took two columns for lines across the gutter', () => {
    const left = column('left', 50, 200, 5);
    const right = column('right', 400, 200, 5);
    const across = left.flatMap((each, k) => [...each, ...right[k]!].map((word) => ({ ...word, piece: 1000 + k })));
    expect(read(across)).toEqual([...left, ...right].map((each) => each.map(({ text }) => text).join(' ')));
  });

  it('is row by row in a table, whatever order its cells were read in', () => {
    const rows = [0, 1, 2, 3, 4, 5].map((k) => [0, 1, 2].map((j) => line(`cell${k}${j}`, 50 + 200 * j, 100 + 40 * k)));
    const byColumn = [0, 1, 2].flatMap((j) => rows.flatMap((row) => row[j]!));
    expect(read(byColumn)).toEqual([0, 1, 2, 3, 4, 5].map((k) => `cell${k}0 cell${k}1 cell${k}2`));
  });

  it('goes from right to left where the writing does', () => {
    const words = [...line('مرفأ', 50, 100), ...line('بحر', 200, 100)];
    expect(read(words)).toEqual(['بحر مرفأ']);
  });

  it('is none of a page without words', () => expect(readingOrder([])).toEqual([]));
});

describe('the words of a line', () => {
  it('stand on one baseline and are of one size, though the line slopes a little', () => {
    const [found] = readingOrder(line('a line that slopes a little', 50, 100, { slope: 0.01 }));
    expect(new Set(found!.map(({ baseline }) => baseline)).size).toBe(1);
    expect(new Set(found!.map(({ tall }) => tall)).size).toBe(1);
  });

  it('keep their own size where it is another', () => {
    const small = line('see note', 50, 100);
    const large = line('TIDES', 250, 100, { tall: 50 });
    expect(readingOrder([...small, ...large])[0]!.map(({ tall }) => tall)).toEqual([TALL, TALL, 50]);
  });
});
