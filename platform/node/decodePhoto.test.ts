import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { decodePhoto } from './decodePhoto';

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
