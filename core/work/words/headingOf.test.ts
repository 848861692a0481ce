import type { PageWord } from './pageWord';
import { headingOf } from './headingOf';

/** A line of words that stand a space apart; `y` is its baseline. */
function line(text: string, y: number, { height = 0.01, confidence = 0.95, x = 0.1 } = {}): PageWord[] {
  let at = x;
  return text.split(' ').map((word) => {
    const width = 0.6 * word.length * height;
    const placed = { text: word, x: at, y: y - height, width, height, confidence };
    at += width + 0.5 * height;
    return placed;
  });
}
const body = (from: number): PageWord[] =>
  Array.from({ length: 12 }, (_, k) => line('Low pressure raises the level by about one', from + 0.02 * k)).flat();

describe('headingOf', () => {
  it('is the larger line at the top, not the line below it', () =>
    expect(
      headingOf([
        ...line('Tides and Tidal Streams', 0.08, { height: 0.018 }),
        ...line('Course notes', 0.11),
        ...body(0.15),
      ]),
    ).toBe('Tides and Tidal Streams'));

  it('is the line at the top that has space below it, in writing that is all of one size', () =>
    expect(headingOf([...line('Notes, week 6', 0.06), ...body(0.11)])).toBe('Notes, week 6'));

  it('goes on in a second line of the same size', () =>
    expect(
      headingOf([
        ...line('Heights at a secondary port', 0.08, { height: 0.018 }),
        ...line('and their differences', 0.11, { height: 0.018 }),
        ...body(0.16),
      ]),
    ).toBe('Heights at a secondary port and their differences'));

  it('is what stands below the name of the school, never that name', () => {
    const school = line('Skerry Point Evening College', 0.06, { height: 0.012 });
    expect(headingOf([...school, ...line('Seashore Botany: shore log sheet', 0.08), ...body(0.13)])).toBe(
      'Seashore Botany: shore log sheet',
    );
    expect(headingOf([...school, ...body(0.13)])).toBeNull();
  });

  it('is not a sign of nothing above it', () =>
    expect(headingOf([...line('+1', 0.04), ...line('Tide curve, Gannet Haven', 0.09), ...body(0.14)])).toBe(
      'Tide curve, Gannet Haven',
    ));

  it.each([
    ['text begins at once', body(0.06)],
    ['nothing was read', []],
    ['a word of it is not sure', [...line('Plate 2: bowline and cheet bend', 0.06, { confidence: 0.7 }), ...body(0.2)]],
    ['its end is missing', [...line('Notes,', 0.06), ...body(0.2)]],
    ['a word in it was not read', [...line('Set 4:', 0.06), ...line('port', 0.06, { x: 0.4 }), ...body(0.2)]],
    ['it is far down', line('Shore log', 0.6, { height: 0.02 })],
  ])('is none where %s', (_why, words) => expect(headingOf(words)).toBeNull());
});
