import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { rareTypeOf } from './rareTypeOf';

describe('formats that go to their own worker', () => {
  const picture = sharp({ create: { width: 120, height: 120, channels: 3, background: '#8a7' } });

  it('are told by their first bytes', async () => {
    expect(rareTypeOf(readFileSync('e2e/files/page.heic'))).toBe('image/heic');
    expect(rareTypeOf(readFileSync('e2e/files/page.jxl'))).toBe('image/jxl');
    expect(rareTypeOf(Buffer.from('\0\0\0\x0cJXL \r\n\x87\n', 'latin1'))).toBe('image/jxl');
    expect(rareTypeOf(await picture.clone().tiff().toBuffer())).toBe('image/tiff');
    expect(rareTypeOf(Buffer.from('%PDF-1.7 …'))).toBe('application/pdf');
  });

  it.each(['jpeg', 'png', 'webp', 'avif', 'gif'] as const)('are not taken for a %s', async (format) => {
    expect(rareTypeOf(await picture.clone().toFormat(format).toBuffer())).toBeNull();
  });
});
