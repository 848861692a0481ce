import { readableBytes } from './readableBytes';

it.each([
  [12, '12 bytes'],
  [412_300, '412 KB'],
  [999_499, '999 KB'],
  [999_600, '1 MB'],
  [10_240_000, '10.2 MB'],
  [5_369_200_000, '5.4 GB'],
])('%d bytes are "%s"', (bytes, words) => expect(readableBytes(bytes)).toBe(words));
