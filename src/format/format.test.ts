import { readableBytes } from '../../core/readableBytes';
import { workingTitle } from './workingTitle';

describe('words for people', () => {
  it.each([
    [12, '12 bytes'],
    [412_300, '412 KB'],
    [999_499, '999 KB'],
    [999_600, '1 MB'],
    [10_240_000, '10.2 MB'],
    [5_369_200_000, '5.4 GB'],
  ])('%d bytes are "%s"', (bytes, words) => expect(readableBytes(bytes)).toBe(words));

  it('a new hand-in is named by its day, and numbered when that is taken', () => {
    const day = new Date(2026, 10, 23, 22, 5);
    expect(workingTitle(day, [])).toBe('Hand-in of 23 November');
    expect(workingTitle(day, ['Hand-in of 23 November', 'Hand-in of 23 November (2)'])).toBe(
      'Hand-in of 23 November (3)',
    );
  });
});
