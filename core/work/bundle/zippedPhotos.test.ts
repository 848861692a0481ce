import { zipSync, type Zippable } from 'fflate';
import type { FotoplanError } from '../../errors';
import { BUNDLE_INDEX } from './bundle';
import { zippedPhotos } from './zippedPhotos';

const bytes = (length: number): Uint8Array => Uint8Array.from({ length }, (_, i) => (i * 7919) % 251);
const look = (entries: Zippable) => zippedPhotos(zipSync(entries), 'scans.zip');
const codeOf = (refused: () => unknown): string => {
  try {
    refused();
  } catch (error) {
    return (error as FotoplanError).code;
  }
  return 'nothing';
};

it('finds photos however deep, as folders and numbers order them, and leaves what systems add', () => {
  const { photos, leftOut, unpack } = look({
    'week 10/plate 2.JPG': bytes(10),
    'week 10/plate 10.jpg': bytes(20),
    'week 9/deep/deeper/log.pdf': bytes(30),
    'week 9/notes.txt': bytes(40),
    'inner.zip': zipSync({ 'a.jpg': bytes(5) }),
    '__MACOSX/week 9/._log.pdf': bytes(3),
    '.DS_Store': bytes(3),
    'week 9/Thumbs.db': bytes(3),
  });
  expect(photos).toEqual(['week 9/deep/deeper/log.pdf', 'week 10/plate 2.JPG', 'week 10/plate 10.jpg']);
  expect(leftOut).toEqual(['inner.zip', 'week 9/notes.txt']);
  expect(unpack('week 10/plate 10.jpg')).toEqual(bytes(20));
});

it('says of a photo that it is larger than any may be, and gives the others', () => {
  const { photos, leftOut, unpack } = look({ 'huge.jpg': new Uint8Array(41_000_000), 'plate.jpg': bytes(30) });
  expect([photos, leftOut]).toEqual([['huge.jpg', 'plate.jpg'], []]);
  expect(codeOf(() => unpack('huge.jpg'))).toBe('PHOTO_TOO_LARGE');
  expect(unpack('plate.jpg')).toEqual(bytes(30));
});

it.each<[string, Zippable, string]>([
  ['without a photo', { 'notes.txt': bytes(9) }, 'NO_PHOTOS_INSIDE'],
  ['with nothing', {}, 'NO_PHOTOS_INSIDE'],
  ['of exported hand-ins', { [BUNDLE_INDEX]: bytes(9), 'a.jpg': bytes(9) }, 'ZIP_IS_EXPORT'],
  [
    'that unpacks to far more than it is',
    { 'a.jpg': new Uint8Array(15_000_000), 'b.jpg': new Uint8Array(15_000_000) },
    'ZIP_UNREADABLE',
  ],
])('refuses a zip %s', (_case, entries, code) => {
  expect(codeOf(() => look(entries))).toBe(code);
});

it('refuses what is no zip, half of one, and one whose bytes are spoilt', () => {
  const whole = zipSync({ 'a.jpg': new Uint8Array(5000).map((_, i) => (i * i) % 256) });
  expect(codeOf(() => zippedPhotos(bytes(500), 'a.zip'))).toBe('ZIP_UNREADABLE');
  expect(codeOf(() => zippedPhotos(whole.slice(0, whole.length / 2), 'a.zip'))).toBe('ZIP_UNREADABLE');
  const spoilt = whole.slice().fill(0xff, 36, 46);
  expect(codeOf(() => zippedPhotos(spoilt, 'a.zip').unpack('a.jpg'))).toBe('PHOTO_UNREADABLE');
});
