import path from 'node:path';
import { readdirSync } from 'node:fs';

const FOLDER = path.resolve('.cache/e2e-data');
/** The demo's photos, of 8 megapixels, which the test command has taken before the browser starts. */
export const TAKEN_PHOTOS = path.join(FOLDER, 'practice-photos');
/** Copies of them for the tests (smallerPhotos.ts). */
export const SMALLER_PHOTOS = path.join(FOLDER, 'smaller-photos');

export const jpegsIn = (folder: string): string[] =>
  readdirSync(folder)
    .filter((f) => f.endsWith('.jpg'))
    .sort()
    .map((f) => path.join(folder, f));

/** The demo's photos of 3.6 megapixels each. */
export const practicePhotos = (): string[] => jpegsIn(SMALLER_PHOTOS);

export const photoNamed = (part: string): string => practicePhotos().find((f) => f.includes(part))!;
