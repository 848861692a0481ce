import { jpegCodec } from './jpegCodec';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { renderCoded, type LendPhoto } from '../../core/work/render/renderCoded';
import { detectOutline } from '../../core/imaging/detect/detectOutline';
import { FotoplanError, toWireError } from '../../core/errors';
import { recoverTilt } from '../../core/imaging/geometry/aspectRatio';
import { ALL_STRAIGHT, mostBent, ringOf, turnBends } from '../../core/imaging/geometry/bentOutline';
import { turnQuad, wholePicture, type Quad } from '../../core/imaging/geometry/quad';
import { longSideAtDpi } from '../../core/work/paper/paperSize';
import { encodedToRead, pageToRead, type PageToRead } from '../../core/work/words/pageToRead';
import { renderedSize, renderPage } from '../../core/work/render/renderPage';
import { findMissingPart, type MissingPart } from '../../core/imaging/quality/missingPart';
import { inspectStart } from '../../core/work/intake/inspectStart';
import {
  CHECK_EDGES_BELOW,
  CHECK_TURN_BELOW,
  OUTLINE_PROBLEMS,
  outlineProblem,
  outlineRecipe,
  type Recipe,
} from '../../core/work/recipe/recipe';
import { wholePhotoRecipe } from '../../core/work/recipe/plainRecipe';
import { recipeFromOutline } from '../../core/work/intake/recipeFromOutline';
import { startRecipes } from '../../core/work/intake/startRecipe';
import { readPhoto } from '../../core/imaging/photo-reading/readPhoto';
import type { PixelImage } from '../../core/imaging/raster/pixelImage';
import { releaseBuffers } from '../../core/imaging/raster/releaseBuffers';
import { readFocalRatio } from '../readFocalRatio';
import { decodePhoto } from './decodePhoto';
import type {
  Answer,
  DetectAnswer,
  DetectTask,
  InspectAnswer,
  InspectTask,
  PageTask,
  RenderAnswer,
  RenderTask,
} from './pageTasks';

// every core has a worker of its own, and no photo is decoded twice
sharp.concurrency(1);
sharp.cache(false);

/** The entry of a worker thread: one page's work from file to result. */
export default async function work(task: PageTask): Promise<Answer<DetectAnswer | RenderAnswer | InspectAnswer>> {
  try {
    return {
      ok: true,
      value:
        task.task === 'detect'
          ? await detect(task)
          : task.task === 'inspect'
            ? await inspect(task)
            : await render(task),
    };
  } catch (error) {
    return {
      ok: false,
      error: toWireError(error, `“${path.basename(task.file)}” could not be worked on. Try another photo.`),
    };
  }
}

interface LoadedPhoto {
  readonly image: PixelImage;
  readonly focalRatio: number | null;
}

async function load(file: string): Promise<LoadedPhoto> {
  const name = path.basename(file);
  const bytes = await readFile(file).catch((cause: unknown) => {
    throw new FotoplanError('NOT_FOUND', `“${file}” cannot be read. Check the path.`, { name }, { cause });
  });
  return { image: await decodePhoto(bytes, name), focalRatio: await readFocalRatio(Uint8Array.from(bytes)) };
}

async function detect({ file }: DetectTask): Promise<DetectAnswer> {
  const { image, focalRatio } = await load(file);
  const started = performance.now();
  const found = detectOutline(image);
  const ms = Math.round((performance.now() - started) * 10) / 10;
  const { width, height } = image;
  if (found === null) return { width, height, quad: null, boundary: null, confidence: 0, upright: false, ms };
  const { outline, quarterTurns, uprightConfidence } = recipeFromOutline(image, found, {
    finish: 'asshot',
    kind: 'sheet',
    focalRatio,
  });
  const quad = turnQuad(outline.corners, quarterTurns);
  const bends = turnBends(outline.bends, quarterTurns);
  return {
    width,
    height,
    quad,
    boundary: mostBent(bends) > 0 ? ringOf(quad, bends, BOUNDARY_STEPS) : null,
    confidence: found.confidence,
    upright: (uprightConfidence ?? 0) >= CHECK_TURN_BELOW,
    ms,
  };
}

/** Points a bent side is told in. */
const BOUNDARY_STEPS = 16;

/** The photo, which is large, is out of reach once its page is flat. */
async function render(task: RenderTask): Promise<RenderAnswer> {
  const { encode } = task;
  if (encode.as === 'png') {
    const { missing, page } = await flatPage(task, encode.dpi);
    const { width, height, channels, data } = page;
    const picture = sharp(data, { raw: { width, height, channels } });
    const marked = encode.dpi === null ? picture : picture.withMetadata({ density: encode.dpi });
    return { as: 'png', missing, bytes: await marked.png().toBuffer() };
  }
  const photo = await load(task.file);
  const missing = findMissingPart(photo.image);
  const recipe = recipeFor(photo, task);
  let toRead: PageToRead<Uint8Array> | null = null;
  const lend: LendPhoto = (work) => {
    const made = work(photo.image);
    releaseBuffers(photo.image.data);
    return Promise.resolve(made);
  };
  const page = await renderCoded(lend, recipe, {
    coding: encode.coding,
    paper: encode.paper,
    ...(encode.dpi === null ? {} : { mostDpi: encode.dpi }),
    jpeg: jpegCodec,
    onFinished: async (finished) => {
      if (encode.toRead) toRead = await encodedToRead(pageToRead(finished), greyPng);
    },
  });
  return { as: 'coded', missing, recipe, page, toRead };
}

async function flatPage(
  task: RenderTask,
  dpi: number | null,
): Promise<{ missing: MissingPart | null; page: PixelImage }> {
  const photo = await load(task.file);
  const recipe = recipeFor(photo, task);
  const { width, height } = renderedSize(photo.image, recipe);
  const mostPx = dpi === null ? Infinity : longSideAtDpi(width, height, 'auto', dpi);
  return { missing: findMissingPart(photo.image), page: renderPage(photo.image, recipe, mostPx, mostPx) };
}

const greyPng = ({ width, height, data }: PixelImage): Promise<Uint8Array> =>
  sharp(data, { raw: { width, height, channels: 1 } })
    .png({ compressionLevel: 1 })
    .toBuffer();

async function inspect({ file }: InspectTask): Promise<InspectAnswer> {
  const { image, focalRatio } = await load(file);
  const recipe = startRecipes(image, { finish: 'daylight', kind: 'sheet', focalRatio })[0];
  const { corners, confidence } = recipe.outline;
  return {
    width: image.width,
    height: image.height,
    confidence,
    upright: (recipe.uprightConfidence ?? 0) >= CHECK_TURN_BELOW,
    tilt: confidence < CHECK_EDGES_BELOW ? null : recoverTilt(corners, image.width, image.height),
    verdict: inspectStart(image, recipe),
  };
}

function recipeFor(photo: LoadedPhoto, task: RenderTask): Recipe {
  const { outline, quarterTurns } = task;
  if (typeof outline === 'object' && 'version' in outline) return outline;
  const found = recipeFound(photo, task, outline);
  return { ...found, quarterTurns: ((found.quarterTurns + quarterTurns) % 4) as Recipe['quarterTurns'] };
}

function recipeFound(
  { image, focalRatio }: LoadedPhoto,
  { finish, file }: RenderTask,
  outline: 'auto' | 'whole' | Quad,
): Recipe {
  const { width, height } = image;
  if (outline === 'auto') return startRecipes(image, { finish, kind: 'sheet', focalRatio })[0];
  const corners: Quad = outline === 'whole' ? wholePicture(width, height) : outline;
  const problem = outlineProblem(corners, width, height);
  if (problem !== null)
    throw new FotoplanError('OUTLINE_DEGENERATE', `“${path.basename(file)}”: ${OUTLINE_PROBLEMS[problem]}`);
  const whole = { ...wholePhotoRecipe(width, height, finish), reading: readPhoto(image, corners, focalRatio) };
  return outline === 'whole' ? whole : outlineRecipe(whole, { corners, bends: ALL_STRAIGHT, lines: [] });
}
