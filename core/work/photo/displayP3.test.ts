import sharp from 'sharp';
import { pixelImageFrom } from '../../imaging/raster/pixelImage';
import { displayP3ToSrgb, isDisplayP3 } from './displayP3';

const COLOURS = [
  [200, 60, 50],
  [40, 70, 160],
  [240, 236, 220],
  [20, 20, 22],
  [30, 140, 60],
] as const;

const picture = (): ReturnType<typeof sharp> =>
  sharp(Buffer.from(COLOURS.flat()), { raw: { width: COLOURS.length, height: 1, channels: 3 } });

/** A box of a file: its size, its name, what is in it. */
const box = (name: string, content: Buffer): Buffer => {
  const size = Buffer.alloc(4);
  size.writeUInt32BE(content.length + 8);
  return Buffer.concat([size, Buffer.from(name, 'latin1'), content]);
};
const heicWith = (colour: Buffer): Buffer =>
  Buffer.concat([box('ftyp', Buffer.from('heicmif1')), box('meta', box('colr', colour)), Buffer.alloc(64)]);
const numbered = (primaries: number): Buffer =>
  Buffer.concat([Buffer.from('nclx'), Buffer.from([0, primaries, 0, 13, 0, 6, 0x80])]);

/** The ICC profile that another library writes into a PNG. */
async function profileOf(name: 'p3' | 'srgb'): Promise<Buffer> {
  const png = await picture().withIccProfile(name).png().toBuffer();
  return (await sharp(png).metadata()).icc!;
}

describe('Display P3', () => {
  it('is told by a HEIC file’s number or profile, and sRGB is not taken for it', async () => {
    expect(isDisplayP3(heicWith(numbered(12)))).toBe(true);
    expect(isDisplayP3(heicWith(numbered(1)))).toBe(false);
    const withProfile = async (name: 'p3' | 'srgb'): Promise<Buffer> =>
      heicWith(Buffer.concat([Buffer.from('prof'), await profileOf(name)]));
    expect(isDisplayP3(await withProfile('p3'))).toBe(true);
    expect(isDisplayP3(await withProfile('srgb'))).toBe(false);
    expect(isDisplayP3(heicWith(Buffer.from('prof')))).toBe(false);
    expect(isDisplayP3(Buffer.from('no such file'))).toBe(false);
  });

  it('becomes sRGB within two levels of what another library makes of it', async () => {
    // stored in P3 by that library, and read without its profile
    const stored = await picture().withIccProfile('p3').png().toBuffer();
    const numbers = await sharp(stored, { ignoreIcc: true }).raw().toBuffer();
    const image = pixelImageFrom(COLOURS.length, 1, 3, new Uint8ClampedArray(numbers));
    const converted = displayP3ToSrgb(image).data;
    COLOURS.flat().forEach((level, i) => expect(Math.abs(converted[i]! - level)).toBeLessThanOrEqual(2));
    expect(Math.abs(numbers[0]! - COLOURS[0][0])).toBeGreaterThan(5);
  });
});
