import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { jpegsIn, SMALLER_PHOTOS, TAKEN_PHOTOS } from './photos';

/**
 * Of the demo's photos' sides: a page of 160 dots an inch, which no test minds. Five of the files took 5.1 minutes with them, 5.6 with
 * photos of 8 megapixels, which the bench judges.
 */
const SHARE = 2 / 3;

/** Before all tests: photos as the demo's are, and as a phone stores them (turned, with their focal length), but smaller. */
export default async function smallerPhotos(): Promise<void> {
  rmSync(SMALLER_PHOTOS, { recursive: true, force: true });
  mkdirSync(SMALLER_PHOTOS, { recursive: true });
  await Promise.all(
    jpegsIn(TAKEN_PHOTOS).map(async (file) => {
      const { width } = await sharp(file).metadata();
      await sharp(file)
        .resize({ width: Math.round(width * SHARE) })
        .keepMetadata()
        .jpeg({ quality: 84 })
        .toFile(path.join(SMALLER_PHOTOS, path.basename(file)));
    }),
  );
}
