import sharp, { type Sharp } from 'sharp';
import { greyOf, similarityOf, type Likeness } from '../core/imaging/layers/layerSimilarity';
import type { PixelImage } from '../core/imaging/raster/pixelImage';
import { decodePhoto } from '../platform/node/decodePhoto';

/* What other coders make of the same picture: sharp's mozjpeg and AVIF. */

const raw = ({ width, height, channels, data }: PixelImage): Sharp => sharp(data, { raw: { width, height, channels } });

async function likenessOf(picture: PixelImage, coded: Buffer): Promise<Likeness> {
  const decoded = await decodePhoto(await sharp(coded).png().toBuffer(), 'coded.png');
  return similarityOf(greyOf(picture), greyOf(decoded), picture.width, picture.height);
}

/** How like a picture the best mozjpeg of it is that has no more than so many bytes; null where even the worst has more. */
export async function jpegOfBytes(picture: PixelImage, most: number): Promise<Likeness | null> {
  const coded = (quality: number): Promise<Buffer> => raw(picture).jpeg({ quality, mozjpeg: true }).toBuffer();
  let [low, high] = [0, 95];
  while (low < high) {
    const quality = Math.ceil((low + high) / 2);
    if ((await coded(quality)).length <= most) low = quality;
    else high = quality - 1;
  }
  return low === 0 ? null : likenessOf(picture, await coded(low));
}

/** The bytes of the smallest AVIF that is as like a picture about its ink. */
export async function avifAsLike(picture: PixelImage, ink: number): Promise<number> {
  const coded = (quality: number): Promise<Buffer> => raw(picture).avif({ quality, effort: 3 }).toBuffer();
  let [low, high] = [1, 90];
  while (low < high) {
    const quality = Math.floor((low + high) / 2);
    if ((await likenessOf(picture, await coded(quality))).ink >= ink) high = quality;
    else low = quality + 1;
  }
  return (await coded(low)).length;
}
