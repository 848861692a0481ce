import path from 'node:path';
import { readdirSync, readFileSync } from 'node:fs';
import type { PhotoTruth } from '../demo/camera/savePhotograph';

const FOLDER = path.resolve('.cache/e2e-data/practice-photos');

/** The demo's photos, which the test command has taken before the browser starts. */
export const practicePhotos = (): string[] =>
  readdirSync(FOLDER)
    .filter((f) => f.endsWith('.jpg'))
    .sort()
    .map((f) => path.join(FOLDER, f));

export const photoNamed = (part: string): string => practicePhotos().find((f) => f.includes(part))!;

export const truthOfPhoto = (file: string): PhotoTruth =>
  JSON.parse(readFileSync(file.replace('.jpg', '.truth.json'), 'utf8')) as PhotoTruth;
