import sharp from 'sharp';
import { readTimeTaken } from './readTimeTaken';

const photo = sharp({ create: { width: 40, height: 30, channels: 3, background: '#888' } });
const takenAt = async (time: string): Promise<Uint8Array<ArrayBuffer>> =>
  Uint8Array.from(
    await photo
      .clone()
      .withExif({ IFD2: { DateTimeOriginal: time } })
      .jpeg()
      .toBuffer(),
  );

describe('readTimeTaken', () => {
  it('tells when a photo was taken, by this clock', async () => {
    expect(await readTimeTaken(await takenAt('2026:10:05 14:03:09'))).toBe(new Date(2026, 9, 5, 14, 3, 9).getTime());
  });

  it('tells nothing of a file that does not, whose time is none, or that is no photo', async () => {
    expect(await readTimeTaken(Uint8Array.from(await photo.clone().jpeg().toBuffer()))).toBeNull();
    expect(await readTimeTaken(await takenAt('    :  :     :  :  '))).toBeNull();
    expect(await readTimeTaken(await takenAt('0000:00:00 00:00:00'))).toBeNull();
    expect(await readTimeTaken(Uint8Array.of(1, 2, 3))).toBeNull();
  });
});
