import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { decodePhoto } from './decodePhoto';

/** Red across, green down, some blue; as Windows programs write it, from the lowest row up. */
function bmpOf(width: number, height: number, bits: 24 | 32): Buffer {
  const row = Math.ceil((width * bits) / 32) * 4;
  const bytes = Buffer.alloc(54 + row * height);
  bytes.write('BM');
  [bytes.length, 0, 54, 40, width, height].forEach((value, k) => bytes.writeUInt32LE(value, 2 + 4 * k));
  bytes.writeUInt16LE(1, 26);
  bytes.writeUInt16LE(bits, 28);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) bytes.set([60, y, x], 54 + (height - 1 - y) * row + (x * bits) / 8);
  return bytes;
}

describe('decodePhoto', () => {
  it('decodes HEIC and TIFF, and says where PDFs go', async () => {
    const heic = await decodePhoto(readFileSync('e2e/files/page.heic'), 'page.heic');
    expect([heic.width, heic.height]).toEqual([300, 400]);
    // the page lies in the middle, paper-white among dark wood
    expect(heic.data[(200 * 300 + 150) * 4]!).toBeGreaterThan(150);
    expect(heic.data[(10 * 300 + 150) * 4]!).toBeLessThan(120);
    const tiff = await decodePhoto(
      await sharp({ create: { width: 200, height: 120, channels: 3, background: '#246' } })
        .tiff({ compression: 'lzw' })
        .toBuffer(),
      'scan.tif',
    );
    expect([tiff.width, tiff.height, ...tiff.data.subarray(0, 3)]).toEqual([200, 120, 0x22, 0x44, 0x66]);
    await expect(decodePhoto(Buffer.from('%PDF-1.7'), 'a.pdf')).rejects.toMatchObject({ code: 'PHOTO_IS_PDF' });
  });

  it.each([24, 32] as const)('decodes a BMP of %i bits, whatever its fourth byte says', async (bits) => {
    const [width, height] = [110, 101];
    const bytes = bmpOf(width, height, bits);
    const image = await decodePhoto(bytes, 'scan.bmp');
    expect([image.width, image.height, image.channels]).toEqual([width, height, 3]);
    expect([...image.data.subarray(0, 3)]).toEqual([0, 0, 60]);
    expect([...image.data.subarray(-3)]).toEqual([width - 1, height - 1, 60]);
    await expect(decodePhoto(bytes.subarray(0, 9000), 'scan.bmp')).rejects.toMatchObject({ code: 'PHOTO_CUT_SHORT' });
  });

  it.each(['avif', 'gif'] as const)('decodes %s', async (format) => {
    const bytes = await sharp({ create: { width: 200, height: 120, channels: 3, background: '#246' } })
      .toFormat(format)
      .toBuffer();
    const { width, height, channels, data } = await decodePhoto(bytes, `scan.${format}`);
    expect([width, height, channels]).toEqual([200, 120, 3]);
    [0x22, 0x44, 0x66].forEach((level, k) => expect(Math.abs(data[k]! - level)).toBeLessThanOrEqual(6));
  });

  it('gives upright RGB, whatever way the picture was stored', async () => {
    const left = await sharp({ create: { width: 200, height: 100, channels: 3, background: '#fff' } })
      .composite([{ input: { create: { width: 100, height: 100, channels: 3, background: '#000' } }, left: 0, top: 0 }])
      .withMetadata({ orientation: 6 })
      .png()
      .toBuffer();
    const image = await decodePhoto(left, 'a.png');
    expect([image.width, image.height, image.channels]).toEqual([100, 200, 3]);
    expect(image.data[50 * 3]).toBe(0); // the dark half is on top now
    expect(image.data[(190 * 100 + 50) * 3]).toBe(255);
  });

  it('honours colour profiles, and reads CMYK and grey as what they show', async () => {
    const red = sharp({ create: { width: 120, height: 120, channels: 3, background: { r: 200, g: 60, b: 50 } } });
    const rgbOf = async (bytes: Buffer, name: string): Promise<number[]> => {
      const { channels, data } = await decodePhoto(bytes, name);
      return channels === 1 ? [data[0]!, data[0]!, data[0]!] : [...data.subarray(0, 3)];
    };
    const near = (found: readonly number[], wanted: readonly number[], within: number): void =>
      wanted.forEach((level, i) => expect(Math.abs(found[i]! - level)).toBeLessThanOrEqual(within));
    const jpeg = { quality: 95, chromaSubsampling: '4:4:4' } as const;
    near(await rgbOf(await red.clone().withIccProfile('p3').jpeg(jpeg).toBuffer(), 'p3.jpg'), [200, 60, 50], 3);
    near(await rgbOf(await red.clone().withIccProfile('p3').png().toBuffer(), 'p3.png'), [200, 60, 50], 2);
    // inks do not reach all of sRGB, and black becomes no black of its own
    near(await rgbOf(await red.clone().toColourspace('cmyk').jpeg(jpeg).toBuffer(), 'inks.jpg'), [200, 60, 50], 25);
    near(await rgbOf(await red.clone().greyscale().jpeg(jpeg).toBuffer(), 'grey.jpg'), [110, 110, 110], 3);
    near(await rgbOf(await red.clone().toColourspace('rgb16').png().toBuffer(), 'deep.png'), [200, 60, 50], 1);
  });

  it('puts transparency on white', async () => {
    const clear = await sharp({
      create: { width: 120, height: 120, channels: 4, background: { r: 0, g: 0, b: 0, alpha: 0 } },
    })
      .webp()
      .toBuffer();
    expect((await decodePhoto(clear, 'a.webp')).data.every((v) => v === 255)).toBe(true);
  });

  it('says that a picture is damaged inside, by name', async () => {
    const whole = await sharp({ create: { width: 300, height: 300, channels: 3, background: '#8a7' } })
      .png()
      .toBuffer();
    const spoilt = Buffer.from(whole);
    spoilt.fill(0x55, 60, whole.length - 30);
    await expect(decodePhoto(spoilt, 'spoilt.png')).rejects.toMatchObject({
      code: expect.stringMatching(/^PHOTO_/) as string,
      message: expect.stringContaining('spoilt.png') as string,
    });
  });
});
