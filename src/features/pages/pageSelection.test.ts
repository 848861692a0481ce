import { afterPress, NOTHING_CHOSEN } from './pageSelection';

const IDS = ['a', 'b', 'c', 'd', 'e'];
const PLAIN = { range: false, add: false };
const SHIFT = { range: true, add: false };

it('takes a page, and lets it go when it is pressed again', () => {
  const one = afterPress(NOTHING_CHOSEN, IDS, 'b', PLAIN);
  expect(one).toEqual({ chosen: ['b'], anchor: 'b' });
  expect(afterPress(one, IDS, 'b', PLAIN).chosen).toEqual([]);
});

it('takes all up to the one pressed with Shift, forwards and backwards, from the same beginning', () => {
  const one = afterPress(NOTHING_CHOSEN, IDS, 'c', PLAIN);
  const forwards = afterPress(one, IDS, 'e', SHIFT);
  expect(forwards).toEqual({ chosen: ['c', 'd', 'e'], anchor: 'c' });
  expect(afterPress(forwards, IDS, 'a', SHIFT).chosen).toEqual(['c', 'd', 'e', 'a', 'b']);
});

it('takes the page alone where no range has begun, or where it began at a page that is gone', () => {
  expect(afterPress(NOTHING_CHOSEN, IDS, 'd', SHIFT)).toEqual({ chosen: ['d'], anchor: 'd' });
  expect(afterPress({ chosen: [], anchor: 'gone' }, IDS, 'd', SHIFT).chosen).toEqual(['d']);
});
