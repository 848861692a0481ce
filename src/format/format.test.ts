import { workingTitle } from './workingTitle';

describe('words for people', () => {
  it('a new hand-in is named by its day, and numbered when that is taken', () => {
    const day = new Date(2026, 10, 23, 22, 5);
    expect(workingTitle(day, [])).toBe('Hand-in of 23 November');
    expect(workingTitle(day, ['Hand-in of 23 November', 'Hand-in of 23 November (2)'])).toBe(
      'Hand-in of 23 November (3)',
    );
  });
});
