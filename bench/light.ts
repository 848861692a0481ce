import { mkdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { applyFinish } from '../core/imaging/finish/applyFinish';
import { toFinish } from '../core/imaging/finish/pageLight';
import { PLAIN_LIGHT } from '../core/imaging/finish/finishSettings';
import { createPixelImage, type PixelImage } from '../core/imaging/raster/pixelImage';
import { fitLongSide, resizeByArea } from '../core/imaging/raster/resizeByArea';
import { drawPage } from '../demo/artist/drawPage';
import { LIGHTS, type Scene } from '../demo/camera/scene';
import { loadOpenCv, type OpenCv } from './classicChain';
import { backgroundOf, hueErrors, maskScore, type HueError } from './lightScores';
import { plainLight } from './plainLight';
import { sameLight } from './sameLight';
import { openTextJudge, type TextJudge } from './readText';
import { loadScoredPhotos, type ScoredPhoto } from './scoredPhotos';
import { mean, percent, quantile } from './statistics';
import { truePage } from './truePage';

/** The page as a flatbed would see it, at the size of the page that came out of the photo. */
interface CleanPage {
  readonly image: PixelImage;
  /** 255 where pen, print or pencil covers the paper. */
  readonly ink: PixelImage;
}

interface LightScore {
  readonly name: string;
  readonly scene: Scene;
  readonly background: { readonly median: number; readonly deviation: number; readonly low: number };
  readonly hues: readonly HueError[];
  readonly press: { readonly f: number; readonly recall: number };
  /** Character errors beyond those on the clean page, of Daylight and of Press; null where there is no print. */
  readonly misread: { readonly daylight: number; readonly press: number } | null;
  readonly ms: number;
  /** The same steps through OpenCV.js. */
  readonly peerMs: number;
  readonly plain: {
    readonly background: LightScore['background'];
    readonly press: { readonly f: number; readonly recall: number };
    readonly ms: number;
  };
  readonly pages: readonly PixelImage[];
}

const WORST_SHOWN = 10;
const SHOWN_LONG_SIDE_PX = 1400;

/** Scores the finishes on simulated photos laid flat by the simulator's own geometry, so that only the light is judged. */
export async function benchLight(
  photoFolder: string,
  outFolder: string,
  only: (name: string) => boolean = () => true,
): Promise<void> {
  const { cv } = await loadOpenCv();
  const reader = await openTextJudge();
  const scores: LightScore[] = [];
  for await (const photo of loadScoredPhotos(photoFolder)) {
    const { scene, corners, width, height } = photo.truth;
    const inFrame = corners.every((p) => p.x > 0 && p.y > 0 && p.x < width && p.y < height);
    if (!only(photo.name) || scene.thumb || !inFrame) continue;
    scores.push(await score(photo, cv, reader));
  }
  await reader.close();
  print(scores);
  rmSync(outFolder, { recursive: true, force: true });
  mkdirSync(outFolder, { recursive: true });
  const badness = ({ background, press }: LightScore): number =>
    Math.max(0, 250 - background.median) + Math.max(0, 240 - background.low) + 200 * Math.max(0, 0.94 - press.f);
  const worst = [...scores].sort((a, b) => badness(b) - badness(a)).slice(0, WORST_SHOWN);
  for (const [rank, { name, pages }] of worst.entries())
    await drawRow(pages, path.join(outFolder, `${String(rank + 1).padStart(2, '0')}-${name}.jpg`));
  console.log(`\nThe worst ${worst.length} are drawn in ${outFolder} (as shot, Daylight, Press).`);
}

async function score(photo: ScoredPhoto, cv: OpenCv, reader: TextJudge): Promise<LightScore> {
  const { name, image, truth } = photo;
  const { scene } = truth;
  const started = performance.now();
  const page = toFinish(truePage(photo));
  const { flat } = page;
  const daylight = applyFinish(page, 'daylight', PLAIN_LIGHT);
  const ms = performance.now() - started;
  const press = applyFinish(page, 'press', PLAIN_LIGHT);
  const clean = cleanPage(scene, daylight);
  const cleanForPress = cleanPage(scene, press);
  // the peer gets the same corners; bent sheets it cannot lay flat, so its ink is only judged on flat ones
  const plain = plainLight(cv, image, truth.corners, flat.width, flat.height);
  const text = truth.lines.map((line) => line.text).join(' ');
  const base = scene.page.kind === 'printed' ? await reader.errors(clean.image, text) : null;
  const misread =
    base === null
      ? null
      : { daylight: (await reader.errors(daylight, text)) - base, press: (await reader.errors(press, text)) - base };
  return {
    name,
    scene,
    background: backgroundOf(daylight, clean.image, clean.ink),
    hues: hueErrors(daylight, clean.image, clean.ink),
    press: maskScore(press, cleanForPress.image, cleanForPress.ink),
    misread,
    ms,
    peerMs: sameLight(cv, image, truth.corners, flat.width, flat.height),
    plain: {
      background: backgroundOf(plain.divided, clean.image, clean.ink),
      press: scene.shape.kind === 'flat' ? maskScore(plain.levels, clean.image, clean.ink) : { f: NaN, recall: NaN },
      ms: plain.ms,
    },
    pages: [flat, daylight, press].map((page) => fitLongSide(page, SHOWN_LONG_SIDE_PX)),
  };
}

export function cleanPage({ page }: Scene, { width, height }: PixelImage): CleanPage {
  const { image, inkMask } = drawPage(page.kind, page.size, page.seed);
  const ink: PixelImage = {
    ...createPixelImage(0, 0, 1),
    width: image.width,
    height: image.height,
    data: new Uint8ClampedArray(inkMask),
  };
  return { image: toSize(image, width, height), ink: toSize(ink, width, height) };
}

/** By area where it shrinks; nearest where the page came out larger than the drawing. */
function toSize(image: PixelImage, width: number, height: number): PixelImage {
  if (width <= image.width && height <= image.height) return resizeByArea(image, width, height);
  const out = createPixelImage(width, height, image.channels);
  for (let y = 0; y < height; y++) {
    const row = Math.floor(((y + 0.5) * image.height) / height) * image.width;
    for (let x = 0; x < width; x++) {
      const from = (row + Math.floor(((x + 0.5) * image.width) / width)) * image.channels;
      for (let c = 0; c < image.channels; c++) out.data[(y * width + x) * image.channels + c] = image.data[from + c]!;
    }
  }
  return out;
}

function print(scores: readonly LightScore[]): void {
  const row = (label: string, part: readonly LightScore[]): Record<string, string | number> => {
    const hues = part.flatMap((s) => s.hues);
    const pencil = part.filter((s) => s.scene.page.kind === 'botany');
    return {
      '': label,
      photos: part.length,
      'paper median': mean(part.map((s) => s.background.median)).toFixed(1),
      'std %': percent(mean(part.map((s) => s.background.deviation))),
      '5th': mean(part.map((s) => s.background.low)).toFixed(1),
      'paper ok': percent(
        mean(
          part.map(({ background: { median, low, deviation } }) =>
            median >= 250 && low >= 240 && deviation <= 0.02 ? 1 : 0,
          ),
        ),
      ),
      'hue off, median': quantile(
        hues.map((h) => h.degrees),
        0.5,
      ).toFixed(1),
      worst: Math.max(0, ...hues.map((h) => h.degrees)).toFixed(1),
      saturation: percent(
        quantile(
          hues.map((h) => h.saturation),
          0.5,
        ),
      ),
      least: percent(Math.min(9, ...hues.map((h) => h.saturation))),
      lighter: quantile(
        hues.map((h) => h.lighter),
        0.5,
      ).toFixed(0),
      'Press F': mean(part.map((s) => s.press.f)).toFixed(3),
      'least F': Math.min(...part.map((s) => s.press.f)).toFixed(3),
      'pencil recall': pencil.length === 0 ? '' : mean(pencil.map((s) => s.press.recall)).toFixed(3),
      misread: signed(part.flatMap((s) => (s.misread === null ? [] : [s.misread.daylight]))),
      'Press misread': signed(part.flatMap((s) => (s.misread === null ? [] : [s.misread.press]))),
      'ms, median': quantile(
        part.map((s) => s.ms),
        0.5,
      ).toFixed(0),
      'OpenCV.js': quantile(
        part.map((s) => s.peerMs),
        0.5,
      ).toFixed(0),
      'plain 5th': mean(part.map((s) => s.plain.background.low)).toFixed(0),
      'plain std': percent(mean(part.map((s) => s.plain.background.deviation))),
      'plain F': mean(part.map((s) => s.plain.press.f).filter((f) => !Number.isNaN(f))).toFixed(3),
      'plain ms': quantile(
        part.map((s) => s.plain.ms),
        0.5,
      ).toFixed(0),
    };
  };
  console.table([
    row('all', scores),
    ...LIGHTS.map((light) =>
      row(
        light,
        scores.filter((s) => s.scene.light === light),
      ),
    ),
  ]);
}

const signed = (values: readonly number[]): string =>
  values.length === 0 ? '' : `${(100 * mean(values)).toFixed(2)} pp`;

async function drawRow(pages: readonly PixelImage[], file: string): Promise<void> {
  const height = 1000;
  const cells = await Promise.all(
    pages.map(async (p) => ({
      width: Math.round((p.width * height) / p.height),
      bytes: await sharp(p.data, { raw: { width: p.width, height: p.height, channels: p.channels } })
        .resize({ height })
        .png()
        .toBuffer(),
    })),
  );
  let left = 0;
  const places = cells.map(({ width, bytes }) => {
    const place = { input: bytes, left, top: 0 };
    left += width + 10;
    return place;
  });
  await sharp({ create: { width: left, height, channels: 3, background: '#888' } })
    .composite(places)
    .jpeg({ quality: 88 })
    .toFile(file);
}
