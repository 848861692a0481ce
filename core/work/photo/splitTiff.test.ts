import sharp from 'sharp';
import { createRandom } from '../../../demo/random';
import { FotoplanError } from '../../errors';
import { splitTiff } from './splitTiff';

const [WIDTH, HEIGHT, PAGES] = [90, 120, 3];

/** Three pages of noise and flats, each another one. */
function pixels(channels: 1 | 3): Buffer {
  const random = createRandom(channels);
  return Buffer.from(
    Array.from({ length: WIDTH * HEIGHT * PAGES * channels }, (_, i) =>
      Math.floor(i / (WIDTH * channels)) % 7 < 4 ? 255 : 255 * random.whole(0, 1),
    ),
  );
}
const sheets = (channels: 1 | 3) =>
  sharp(pixels(channels), { raw: { width: WIDTH, height: HEIGHT * PAGES, channels, pageHeight: HEIGHT } });
const raw = (bytes: Uint8Array, page = 0): Promise<Buffer> => sharp(bytes, { page }).raw().toBuffer();

describe('splitTiff', () => {
  it.each([
    ['plain', (): Promise<Buffer> => sheets(3).tiff({ compression: 'none' }).toBuffer()],
    ['with LZW and a predictor', () => sheets(3).tiff({ compression: 'lzw', predictor: 'horizontal' }).toBuffer()],
    [
      'in tiles',
      () => sheets(3).tiff({ compression: 'deflate', tile: true, tileWidth: 32, tileHeight: 32 }).toBuffer(),
    ],
    ['with JPEG and its tables', () => sheets(3).tiff({ compression: 'jpeg', quality: 90 }).toBuffer()],
    [
      'of fax pages (Group 4)',
      () => sheets(1).toColourspace('b-w').tiff({ compression: 'ccittfax4', bitdepth: 1 }).toBuffer(),
    ],
  ])('gives each page of a file %s its own, pixel for pixel', async (_, make) => {
    const file = await make();
    const pages = splitTiff(file, 'scan.tif')!;
    expect(pages).toHaveLength(PAGES);
    for (const [k, page] of pages.entries()) {
      expect(await sharp(page).metadata()).toMatchObject({ format: 'tiff', width: WIDTH, height: HEIGHT });
      expect((await sharp(page).metadata()).pages ?? 1).toBe(1);
      expect((await raw(page)).equals(await raw(file, k))).toBe(true);
      expect(splitTiff(page, 'scan.tif')).toBeNull();
    }
    expect(pages.reduce((sum, page) => sum + page.length, 0)).toBeLessThan(1.3 * file.length + 1000);
  });

  it('leaves a TIFF of one page and other files to those who read them', async () => {
    const one = await sheets(3).extract({ left: 0, top: 0, width: 90, height: 120 }).tiff().toBuffer();
    const png = await sharp(one).png().toBuffer();
    for (const file of [one, png, new Uint8Array()]) expect(splitTiff(file, 'scan.tif')).toBeNull();
  });

  it.each([0.2, 0.5, 0.9])('says that a file breaks off, and takes no part of it for all (%f of it)', async (share) => {
    const file = await sheets(3).tiff({ compression: 'lzw' }).toBuffer();
    expect(() => splitTiff(file.subarray(0, Math.round(share * file.length)), 'scan.tif')).toThrow(
      '“scan.tif” breaks off before its end.',
    );
  });

  it.each([1, 2, 3, 4, 5, 6, 7, 8])('comes to an end on a spoilt file, with pages or a sentence (%i)', async (seed) => {
    const random = createRandom(seed);
    const file = await sheets(1).tiff({ compression: 'lzw' }).toBuffer();
    for (let k = 0; k < 60; k++) {
      const spoilt = Buffer.from(file);
      for (let i = 0; i < 12; i++) spoilt[random.whole(0, spoilt.length - 1)] = random.whole(0, 255);
      // the directories stand at the end
      for (let i = 0; i < 3; i++) spoilt[spoilt.length - random.whole(1, 400)] = random.whole(0, 255);
      try {
        const pages = splitTiff(spoilt, 'scan.tif');
        expect(pages === null || pages.length >= 2).toBe(true);
      } catch (error) {
        expect(error).toBeInstanceOf(FotoplanError);
        expect((error as Error).message).toContain('“scan.tif”');
      }
    }
  });
});
