import { visualOrder } from './visualOrder';

it.each([
  ['tide', 'tide'],
  ['2,9', '2,9'],
  ['مدّ', [...'مدّ'].reverse().join('')],
  ['كتاب', 'باتك'],
  // a number inside keeps its own direction
  ['فصل12', '12لصف'],
  ['(بحر)', ')رحب('],
])('%s stands on paper as %s', (word, written) => {
  expect(visualOrder(word)).toBe(written);
});

it('turned twice, a word without numbers is itself again', () => {
  expect(visualOrder(visualOrder('المحطة'))).toBe('المحطة');
});
