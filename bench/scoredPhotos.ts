import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { PixelImage } from '../core/imaging/raster/pixelImage';
import type { PhotoTruth } from '../demo/camera/savePhotograph';
import { decodePhoto } from '../platform/node/decodePhoto';

/** A photo with the truth about it. */
export interface ScoredPhoto {
  readonly name: string;
  readonly image: PixelImage;
  readonly truth: PhotoTruth;
  /** Width over height of the flat page. */
  readonly aspect: number;
}

/** Reads every NAME.jpg that has a NAME.truth.json beside it, one at a time. */
export async function* loadScoredPhotos(folder: string): AsyncGenerator<ScoredPhoto> {
  const names = readdirSync(folder)
    .filter((f) => f.endsWith('.truth.json'))
    .sort();
  for (const file of names) {
    const name = file.replace('.truth.json', '');
    const truth = JSON.parse(readFileSync(path.join(folder, file), 'utf8')) as PhotoTruth;
    const image = await decodePhoto(readFileSync(path.join(folder, `${name}.jpg`)), `${name}.jpg`);
    yield { name, image, truth, aspect: truth.pageWidthMm / truth.pageHeightMm };
  }
}
