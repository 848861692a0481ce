import sharp from 'sharp';
import { readFocalRatio } from './readFocalRatio';

const photo = sharp({ create: { width: 40, height: 30, channels: 3, background: '#888' } });
const withFocal = async (mm: string): Promise<Uint8Array<ArrayBuffer>> =>
  Uint8Array.from(
    await photo
      .clone()
      .withExif({ IFD2: { FocalLengthIn35mmFilm: mm } })
      .jpeg()
      .toBuffer(),
  );

describe('readFocalRatio', () => {
  it('tells the focal length over the long side', async () => {
    expect(await readFocalRatio(await withFocal('26'))).toBeCloseTo(26 / 36, 6);
    expect(await readFocalRatio(await withFocal('77'))).toBeCloseTo(77 / 36, 6);
  });

  it('tells nothing of a file that does not, or that is none', async () => {
    expect(await readFocalRatio(await withFocal('0'))).toBeNull();
    expect(await readFocalRatio(Uint8Array.from(await photo.clone().jpeg().toBuffer()))).toBeNull();
    expect(await readFocalRatio(Uint8Array.from(await photo.clone().png().toBuffer()))).toBeNull();
    expect(await readFocalRatio(Uint8Array.of(1, 2, 3))).toBeNull();
    const cut = (await withFocal('26')).slice(0, 60);
    expect(await readFocalRatio(cut)).toBeNull();
  });
});
