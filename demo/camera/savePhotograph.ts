import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import type { Point } from '../../core/imaging/geometry/point';
import type { Quad } from '../../core/imaging/geometry/quad';
import type { WrittenLine } from '../artist/sheet';
import { ARTIST_DPI } from '../artist/sheet';
import { photographDesk, type Photograph } from './photograph';
import type { Scene } from './scene';

/** What lies beside every simulated photo as NAME.truth.json. */
export interface PhotoTruth {
  readonly scene: Scene;
  /** Size as seen, after EXIF orientation; all points are in these pixels. */
  readonly width: number;
  readonly height: number;
  readonly corners: Quad;
  readonly boundary: readonly Point[];
  readonly pageWidthMm: number;
  readonly pageHeightMm: number;
  readonly lines: readonly WrittenLine[];
}

/** Degrees clockwise to store the picture turned by, so that a reader who honours EXIF sees it as it was taken. */
const STORED_TURN = { 1: 0, 3: 180, 6: 270, 8: 90 } as const;

/** The photo as a phone would write it. */
export function encodePhotograph({ image, scene }: Pick<Photograph, 'image' | 'scene'>): Promise<Buffer> {
  return sharp(image.data, { raw: { width: image.width, height: image.height, channels: 3 } })
    .rotate(STORED_TURN[scene.exifOrientation])
    .withExif({
      IFD0: { Model: 'Fotoplan camera simulator' },
      IFD2: { FocalLengthIn35mmFilm: String(Math.round(scene.camera.focalShare * 36)) },
    })
    .withMetadata({ orientation: scene.exifOrientation })
    .jpeg({ quality: scene.jpegQuality })
    .toBuffer();
}

export function truthOf({ scene, image, corners, boundary, page }: Photograph): PhotoTruth {
  const { width, height } = image;
  return {
    scene,
    width,
    height,
    corners,
    boundary,
    pageWidthMm: page.widthMm,
    pageHeightMm: page.heightMm,
    lines: page.lines,
  };
}

/** Writes NAME.jpg of the scene's desk with no page on it. */
export async function saveDesk(scene: Scene, folder: string, name: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  await writeFile(path.join(folder, `${name}.jpg`), await encodePhotograph({ image: photographDesk(scene), scene }));
}

/** Writes NAME.jpg and NAME.truth.json, and with `flat` also the clean page and its ink mask as PNG. */
export async function savePhotograph(
  photo: Photograph,
  folder: string,
  name: string,
  options: { flat: boolean },
): Promise<void> {
  await mkdir(folder, { recursive: true });
  const { page } = photo;
  if (options.flat) {
    const { width, height } = page.image;
    await sharp(page.image.data, { raw: { width, height, channels: 3 } })
      .withMetadata({ density: ARTIST_DPI })
      .png()
      .toFile(path.join(folder, `${name}.page.png`));
    await sharp(page.inkMask, { raw: { width, height, channels: 1 } })
      .png()
      .toFile(path.join(folder, `${name}.ink.png`));
  }
  await writeFile(path.join(folder, `${name}.jpg`), await encodePhotograph(photo));
  await writeFile(path.join(folder, `${name}.truth.json`), JSON.stringify(truthOf(photo)));
}
