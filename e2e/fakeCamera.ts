import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';

const TABLE = path.resolve('.cache/e2e-data/practice-table');
const FOLDER = path.resolve('.cache/e2e-video');

/** Chromium plays a file of JPEGs at 30 frames a second, over and over. */
const FRAMES_PER_SECOND = 30;
/** Small enough that software decoding keeps up on two cores. */
const SIZE = { width: 1080, height: 1440 };
/** Places in a hand's tremor, px of the table's pictures; each is encoded once and shown many times. */
const TREMOR = [
  [0, 0],
  [2, 1],
  [3, 3],
  [1, 4],
  [-1, 2],
  [-2, 0],
] as const;
const MARGIN = 12;

export interface VideoPart {
  /** Part of the table picture's file name. */
  readonly picture: string;
  readonly seconds: number;
  /** Light left, 0 to 1. */
  readonly light?: number;
}

async function framesOf({ picture, light = 1 }: VideoPart): Promise<Buffer[]> {
  const file = path.join(
    TABLE,
    readdirSync(TABLE).find((f) => f.endsWith('.jpg') && f.includes(picture))!,
  );
  const { width, height } = await sharp(file).metadata();
  return Promise.all(
    TREMOR.map(([dx, dy]) =>
      sharp(file)
        .extract({ left: MARGIN + dx, top: MARGIN + dy, width: width - 2 * MARGIN, height: height - 2 * MARGIN })
        .resize(SIZE)
        // Chromium takes the file's levels for video levels, 16 to 235
        .linear((light * 219) / 255, 16)
        .jpeg({ quality: 80 })
        .toBuffer(),
    ),
  );
}

/** Writes what the simulated camera sees as a video for Chromium's fake device, once. @returns the file */
export async function cameraVideo(name: string, parts: readonly VideoPart[]): Promise<string> {
  const file = path.join(FOLDER, `${name}.mjpeg`);
  if (existsSync(file)) return file;
  mkdirSync(FOLDER, { recursive: true });
  const stills = new Map<string, Buffer[]>();
  const video: Buffer[] = [];
  for (const part of parts) {
    const key = `${part.picture} ${part.light ?? 1}`;
    const frames = stills.get(key) ?? (await framesOf(part));
    stills.set(key, frames);
    for (let i = 0; i < part.seconds * FRAMES_PER_SECOND; i++) video.push(frames[Math.floor(i / 4) % frames.length]!);
  }
  writeFileSync(file, Buffer.concat(video));
  return file;
}

/** Pages in the order they come, with the bare desk in between. */
export const TABLE_PAGES = ['1-calculation', '2-curve', '3-botany', '4-knot', '5-log'] as const;

export const fakeCameraArgs = (video: string): string[] => [
  '--use-fake-ui-for-media-stream',
  '--use-fake-device-for-media-stream',
  `--use-file-for-fake-video-capture=${video}`,
];
