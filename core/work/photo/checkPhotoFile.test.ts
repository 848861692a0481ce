import sharp, { type Sharp } from 'sharp';
import { FotoplanError } from '../../errors';
import { readFileSync } from 'node:fs';
import { checkPhotoFile, uprightSize } from './checkPhotoFile';

const photo = (width: number, height: number): Sharp =>
  sharp({ create: { width, height, channels: 3, background: '#8a7' } });

describe('checkPhotoFile', () => {
  it.each(['jpeg', 'png', 'webp', 'avif', 'gif'] as const)(
    'takes a whole %s whatever its name says',
    async (format) => {
      const bytes = await photo(320, 240).toFormat(format).toBuffer();
      expect(checkPhotoFile(bytes, 'page.txt')).toEqual({
        type: `image/${format}`,
        width: 320,
        height: 240,
        orientation: 1,
      });
    },
  );

  it.each(['png', 'webp', 'avif', 'gif'] as const)('notices a %s that breaks off', async (format) => {
    const bytes = await photo(320, 240).toFormat(format).toBuffer();
    expect(() => checkPhotoFile(bytes.subarray(0, bytes.length - 20), 'cut.jpg')).toThrow(
      expect.objectContaining({ code: 'PHOTO_CUT_SHORT' }) as Error,
    );
  });

  it('takes TIFF, HEIC and PDF by their contents', async () => {
    expect(checkPhotoFile(await photo(320, 240).tiff().toBuffer(), 'scan').type).toBe('image/tiff');
    expect(checkPhotoFile(readFileSync('e2e/files/page.heic'), 'photo')).toMatchObject({
      type: 'image/heic',
      width: 300,
      height: 400,
    });
    expect(checkPhotoFile(Buffer.from('%PDF-1.7 …'), 'handout').type).toBe('application/pdf');
  });

  it.each([
    ['\0\0\0\x0cjP  ', 'a JPEG 2000 picture'],
    ['PK\x03\x04', 'a zip'],
  ])('says what a picture is that is not read: %j', (start, what) => {
    expect(() => checkPhotoFile(Buffer.from(start.padEnd(64, '\0'), 'latin1'), 'page')).toThrow(
      `“page” is ${what}. Choose a JPEG, PNG`,
    );
  });

  it('notices a HEIC that breaks off', () => {
    const bytes = readFileSync('e2e/files/page.heic');
    expect(() => checkPhotoFile(bytes.subarray(0, bytes.length - 40), 'cut.heic')).toThrow(
      expect.objectContaining({ code: 'PHOTO_CUT_SHORT' }) as Error,
    );
  });

  it('knows the size as it is seen', async () => {
    const sideways = checkPhotoFile(await photo(320, 240).withMetadata({ orientation: 6 }).jpeg().toBuffer(), 'a.jpg');
    expect(uprightSize(sideways)).toEqual({ width: 240, height: 320 });
  });

  it('is not fooled by the end marker of a thumbnail inside the file', async () => {
    const inner = await photo(160, 120).jpeg().toBuffer();
    const whole = await photo(320, 240).jpeg().toBuffer();
    const segment = Buffer.concat([
      Buffer.from([0xff, 0xe2, (inner.length + 2) >> 8, (inner.length + 2) & 255]),
      inner,
    ]);
    const withInner = Buffer.concat([whole.subarray(0, 2), segment, whole.subarray(2)]);
    expect(checkPhotoFile(withInner, 'a.jpg').width).toBe(320);
    expect(() => checkPhotoFile(withInner.subarray(0, inner.length + 20), 'a.jpg')).toThrow(
      expect.objectContaining({ code: 'PHOTO_CUT_SHORT' }) as Error,
    );
  });

  /** Files of a few bytes that say their boxes have no length: walked by that, they never end. */
  const box = (size: number, name: string, ...rest: readonly number[]): Buffer => {
    const head = Buffer.alloc(8);
    head.writeUInt32BE(size);
    head.write(name, 4, 'latin1');
    return Buffer.concat([head, Buffer.from(rest)]);
  };
  const heic = readFileSync('e2e/files/page.heic');
  const endless: [string, Buffer][] = [
    ['a HEIC whose last box has a 64-bit size of 0', Buffer.concat([heic, box(1, 'free', 0, 0, 0, 0, 0, 0, 0, 0)])],
    ['a HEIC whose last box has a 64-bit size of 15', Buffer.concat([heic, box(1, 'free', 0, 0, 0, 0, 0, 0, 0, 15)])],
    [
      'a HEIC whose ispe box has size 0',
      Buffer.concat([
        box(16, 'ftyp', ...Buffer.from('heic'), 0, 0, 0, 0),
        box(56, 'meta', 0, 0, 0, 0),
        box(44, 'iprp'),
        box(36, 'ipco'),
        box(0, 'ispe', ...Buffer.alloc(20)),
      ]),
    ],
    ['an ICNS whose entry has length 0', Buffer.from('69636e730000001869633130000000000000000000000000', 'hex')],
    ['a HEIC that is nothing but a box of size 1', box(1, 'ftyp', ...Buffer.from('heic'))],
  ];
  it.each(endless)('refuses %s at once', (_name, bytes) => {
    const began = performance.now();
    expect(() => checkPhotoFile(bytes, 'a.heic')).toThrow(FotoplanError);
    expect(performance.now() - began).toBeLessThan(100);
  });

  const refused: [string, () => Promise<Buffer> | Buffer, string, string][] = [
    ['an empty file', () => Buffer.alloc(0), 'PHOTO_EMPTY', 'Copy it from the phone again'],
    ['a text file', () => Buffer.from('to whom it may concern'), 'PHOTO_NOT_A_PHOTO', 'Choose a JPEG'],
    ['one pixel', () => photo(1, 1).png().toBuffer(), 'PHOTO_TOO_SMALL', '1 × 1 pixels'],
    ['60 megapixels', () => photo(10_000, 6000).png().toBuffer(), 'PHOTO_TOO_LARGE', '60 megapixels'],
    [
      'a picture of another kind',
      () => Buffer.from(`P6 300 300 255\n${' '.repeat(900)}`),
      'PHOTO_NOT_A_PHOTO',
      'JPEG, PNG, WebP, AVIF, HEIC, JPEG XL, TIFF, GIF, BMP or PDF',
    ],
  ];
  it.each(refused)('refuses %s with a sentence that names it and the fix', async (_name, make, code, words) => {
    const bytes = await make();
    const check = (): unknown => checkPhotoFile(bytes, 'scan 3.jpg');
    expect(check).toThrow(expect.objectContaining({ code }) as Error);
    expect(check).toThrow('scan 3.jpg');
    expect(check).toThrow(words);
  });
});
