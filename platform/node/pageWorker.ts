import { readFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { encodeJbig2 } from '../../core/compress/jbig2';
import { detectOutline } from '../../core/detect/detectOutline';
import { FotoplanError, toWireError } from '../../core/errors';
import { isBilevel } from '../../core/finish/light';
import { ALL_STRAIGHT, mostBent, ringOf, turnBends } from '../../core/geometry/bentOutline';
import { turnQuad, wholePicture, type Quad } from '../../core/geometry/quad';
import { longSideAtDpi } from '../../core/pdf/paperSize';
import { renderedSize, renderPage } from '../../core/recipe/renderPage';
import { CHECK_TURN_BELOW, outlineProblem, outlineRecipe, type Recipe } from '../../core/recipe/recipe';
import { recipeFromOutline, startRecipes, wholePhotoRecipe } from '../../core/recipe/startRecipe';
import type { PixelImage } from '../../core/raster/pixelImage';
import { decodePhoto } from './decodePhoto';
import type { Answer, DetectAnswer, DetectTask, PageTask, RenderAnswer, RenderTask } from './pageTasks';

/** The entry of a worker thread: one page's work from file to result. */
export default async function work(task: PageTask): Promise<Answer<DetectAnswer | RenderAnswer>> {
  try {
    return { ok: true, value: task.task === 'detect' ? await detect(task) : await render(task) };
  } catch (error) {
    return { ok: false, error: toWireError(error, `“${path.basename(task.file)}” could not be worked on. Try another photo.`) };
  }
}

async function load(file: string): Promise<PixelImage> {
  const name = path.basename(file);
  const bytes = await readFile(file).catch((cause: unknown) => {
    throw new FotoplanError('NOT_FOUND', `“${file}” cannot be read. Check the path.`, { name }, { cause });
  });
  return decodePhoto(bytes, name);
}

async function detect({ file }: DetectTask): Promise<DetectAnswer> {
  const image = await load(file);
  const started = performance.now();
  const found = detectOutline(image);
  const ms = Math.round((performance.now() - started) * 10) / 10;
  const { width, height } = image;
  if (found === null) return { width, height, quad: null, boundary: null, confidence: 0, upright: false, ms };
  const { outline, quarterTurns, uprightConfidence } = recipeFromOutline(image, found, 'asshot', 'sheet');
  const quad = turnQuad(outline.corners, quarterTurns);
  const bends = turnBends(outline.bends, quarterTurns);
  return { width, height, quad, boundary: mostBent(bends) > 0 ? ringOf(quad, bends, BOUNDARY_STEPS) : null, confidence: found.confidence, upright: (uprightConfidence ?? 0) >= CHECK_TURN_BELOW, ms };
}

/** Points a bent side is told in. */
const BOUNDARY_STEPS = 16;

async function render({ file, finish, outline, encode }: RenderTask): Promise<RenderAnswer> {
  const image = await load(file);
  const recipe = recipeFor(image, finish, outline, file);
  const size = renderedSize(image.width, image.height, recipe);
  const paper = encode.as === 'page' ? encode.paper : 'auto';
  const longSide = encode.dpi === null ? Infinity : longSideAtDpi(size.width, size.height, paper, encode.dpi);
  const page = renderPage(image, recipe, longSide);
  const { width, height } = page;
  if (encode.as === 'page' && isBilevel(finish)) return { coding: 'jbig2', bytes: encodeJbig2(page), width, height };
  const picture = sharp(page.data, { raw: { width, height, channels: page.channels } });
  if (encode.as === 'png') return { coding: 'png', bytes: await picture.png().toBuffer(), width, height };
  return { coding: 'jpeg', bytes: await picture.jpeg({ quality: encode.quality, mozjpeg: true }).toBuffer(), width, height };
}

function recipeFor({ width, height, ...rest }: PixelImage, finish: RenderTask['finish'], outline: RenderTask['outline'], file: string): Recipe {
  if (outline === 'auto') return startRecipes({ width, height, ...rest }, finish, 'sheet')[0];
  const corners: Quad = outline === 'whole' ? wholePicture(width, height) : outline;
  const problem = outlineProblem(corners, width, height);
  if (problem !== null) throw new FotoplanError('OUTLINE_DEGENERATE', `“${path.basename(file)}”: ${problem}`);
  const whole = wholePhotoRecipe(width, height, finish);
  return outline === 'whole' ? whole : outlineRecipe(whole, corners, ALL_STRAIGHT);
}
