import sharp from 'sharp';
import { decodePhoto } from '../../../platform/node/decodePhoto';
import { findMissingPart } from '../../imaging/quality/missingPart';
import { checkPhotoFile } from './checkPhotoFile';
import { endedJpeg, jpegGoes } from './jpegEnd';

const WIDTH = 480;
const HEIGHT = 640;

/** Paper with a pattern, so that every part of the file has some bytes. */
const photo = sharp(
  Buffer.from(Array.from({ length: WIDTH * HEIGHT * 3 }, (_, k) => 190 + 40 * Math.sin(k / 7) * Math.cos(k / 4111))),
  { raw: { width: WIDTH, height: HEIGHT, channels: 3 } },
).jpeg({ quality: 85 });

const cutAt = (bytes: Buffer, share: number): Buffer => bytes.subarray(0, Math.round(share * bytes.length));

describe('a JPEG that breaks off', () => {
  it.each([
    [1, 'bottom'],
    [3, 'top'],
    [6, 'left'],
    [8, 'right'],
  ] as const)(
    'is taken as far as it goes, and what is missing is known (orientation %i)',
    async (orientation, side) => {
      const bytes = cutAt(await photo.clone().withMetadata({ orientation }).toBuffer(), 0.6);
      expect(jpegGoes(bytes)).toBe('cut');
      expect(checkPhotoFile(bytes, 'cut.jpg').width).toBe(WIDTH);
      const missing = findMissingPart(await decodePhoto(bytes, 'cut.jpg'))!;
      expect(missing.side).toBe(side);
      expect(missing.share).toBeGreaterThan(0.3);
      expect(missing.share).toBeLessThan(0.5);
    },
  );

  it('may be filled up with zeros', async () => {
    const bytes = await photo.clone().toBuffer();
    const filled = Buffer.concat([cutAt(bytes, 0.6), Buffer.alloc(bytes.length >> 1)]);
    const [cut, withZeros] = await Promise.all([decodePhoto(cutAt(bytes, 0.6), 'a.jpg'), decodePhoto(filled, 'b.jpg')]);
    expect(findMissingPart(withZeros)).toEqual(findMissingPart(cut));
  });

  it('is told from a whole one, which stays as it is', async () => {
    const bytes = await photo.clone().toBuffer();
    expect(endedJpeg(bytes)).toBe(bytes);
    expect(findMissingPart(await decodePhoto(bytes, 'a.jpg'))).toBeNull();
  });

  it('is refused where its picture has not begun', async () => {
    const bytes = await photo.clone().toBuffer();
    expect(jpegGoes(bytes.subarray(0, 100))).toBe('nowhere');
    expect(() => checkPhotoFile(bytes.subarray(0, 100), 'a.jpg')).toThrow(
      expect.objectContaining({ code: 'PHOTO_CUT_SHORT' }) as Error,
    );
  });
});
