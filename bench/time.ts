import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { bindPdf } from '../core/work/pdf/bindPdf';
import { detectOutline } from '../core/imaging/detect/detectOutline';
import { applyFinish } from '../core/imaging/finish/applyFinish';
import { toFinish } from '../core/imaging/finish/pageLight';
import { codePage } from '../core/imaging/layers/codePage';
import { FINEST } from '../core/imaging/layers/codedPage';
import { fitLongSide } from '../core/imaging/raster/resizeByArea';
import { longSideAtDpi } from '../core/work/paper/paperSize';
import { preparePage, renderedSize } from '../core/work/render/renderPage';
import { recipeFromOutline } from '../core/work/intake/recipeFromOutline';
import { decodePhoto } from '../platform/node/decodePhoto';
import { jpegCodec } from '../platform/node/jpegCodec';
import { classicOutline, loadOpenCv, toRgba, type OpenCv } from './classicChain';
import { plainLight } from './plainLight';
import { loadScoredPhotos } from './scoredPhotos';
import { quantile } from './statistics';

/** Photos whose pages are worked on, all of 12 megapixels; OpenCV.js takes some seconds for each beside what is measured. */
const PHOTOS = 6;
/** The classic chain works on a picture this large, as it is usually run. */
const CLASSIC_LONG_SIDE_PX = 1000;
/** An A4 page at 200 dots an inch. */
const PAGE = { width: 1654, height: 2339 };
const PEER_QUALITY = 0.75;

/** A page's way from its file to the bytes of a PDF, in the order in which it goes. */
const STAGES = ['decode', 'outline', 'turn and lines', 'flatten', 'light', 'finish', 'code', 'write'] as const;
/** The same from OpenCV.js, which decodes and encodes nothing: with the codecs of the first. */
const PEER_STAGES = ['decode', 'outline', 'flatten, light and finish', 'encode'] as const;
/** What cannot be gone below: decoding, looking at every pixel once, and encoding a page of that size. */
const FLOOR_STAGES = ['decode', 'one pass', 'encode'] as const;

type Times<S extends string> = Record<S, number>;

/** Measures how long each stage of some pages takes, one after another on one core, and prints the medians. */
export async function benchTime(photoFolder: string): Promise<void> {
  const { cv } = await loadOpenCv();
  const names: string[] = [];
  for await (const { name } of loadScoredPhotos(photoFolder)) if (names.push(name) === PHOTOS) break;
  const files = names.map((name) => path.join(photoFolder, `${name}.jpg`));
  // the first is worked on before it counts: compilers and codecs are warm then
  await timePage(files[0]!);
  const own: Times<(typeof STAGES)[number]>[] = [];
  const peer: Times<(typeof PEER_STAGES)[number]>[] = [];
  const floor: Times<(typeof FLOOR_STAGES)[number]>[] = [];
  for (const file of files) {
    own.push(await timePage(file));
    peer.push(await timePeer(cv, file));
    floor.push(await timeFloor(file));
  }
  print('Fotoplan, Daylight', STAGES, own);
  print('OpenCV.js: blur, Canny, contours; warp, median, divide, threshold; JPEG', PEER_STAGES, peer);
  print('Floor: nothing but reading and writing', FLOOR_STAGES, floor);
}

/** Calls something and notes how long it took. */
async function timed<S extends string, T>(times: Times<S>, stage: S, work: () => T | Promise<T>): Promise<T> {
  const started = performance.now();
  const result = await work();
  times[stage] = performance.now() - started;
  return result;
}

async function timePage(file: string): Promise<Times<(typeof STAGES)[number]>> {
  const times = {} as Times<(typeof STAGES)[number]>;
  const photo = await timed(times, 'decode', async () => decodePhoto(await readFile(file), file));
  const found = await timed(times, 'outline', () => detectOutline(photo));
  if (found === null) throw new Error(`no outline in ${file}`);
  const recipe = await timed(times, 'turn and lines', () =>
    recipeFromOutline(photo, found, { finish: 'daylight', kind: 'sheet', focalRatio: null }),
  );
  const { width, height } = renderedSize(photo, recipe);
  const longSidePx = longSideAtDpi(width, height, 'a4', FINEST.dpi, recipe.kind);
  const prepared = await timed(times, 'flatten', () => preparePage(photo, recipe, { longSidePx }));
  const page = toFinish(prepared);
  await timed(times, 'light', () => page.light());
  const finished = await timed(times, 'finish', () => applyFinish(page, recipe.finish, recipe.light));
  const coded = await timed(times, 'code', () => codePage(finished, recipe.finish, FINEST, jpegCodec));
  await timed(times, 'write', () => bindPdf([{ content: coded, kind: recipe.kind }], { title: 'Time', paper: 'a4' }));
  return times;
}

async function timePeer(cv: OpenCv, file: string): Promise<Times<(typeof PEER_STAGES)[number]>> {
  const times = {} as Times<(typeof PEER_STAGES)[number]>;
  const photo = await timed(times, 'decode', async () => decodePhoto(await readFile(file), file));
  await timed(times, 'outline', () => classicOutline(cv, toRgba(fitLongSide(photo, CLASSIC_LONG_SIDE_PX))));
  const { width, height } = photo;
  const corners = [
    { x: 0.1 * width, y: 0.1 * height },
    { x: 0.9 * width, y: 0.1 * height },
    { x: 0.9 * width, y: 0.9 * height },
    { x: 0.1 * width, y: 0.9 * height },
  ] as const;
  const { divided, ms } = plainLight(cv, photo, corners, PAGE.width, PAGE.height);
  times['flatten, light and finish'] = ms;
  await timed(times, 'encode', () => jpegCodec.encode(divided, PEER_QUALITY));
  return times;
}

async function timeFloor(file: string): Promise<Times<(typeof FLOOR_STAGES)[number]>> {
  const times = {} as Times<(typeof FLOOR_STAGES)[number]>;
  const photo = await timed(times, 'decode', async () => decodePhoto(await readFile(file), file));
  await timed(times, 'one pass', () => {
    let sum = 0;
    const { data } = photo;
    for (let i = 0; i < data.length; i++) sum += data[i]!;
    return sum;
  });
  const page = fitLongSide(photo, PAGE.height);
  await timed(times, 'encode', () => jpegCodec.encode(page, PEER_QUALITY));
  return times;
}

function print<S extends string>(title: string, stages: readonly S[], pages: readonly Times<S>[]): void {
  const totals = pages.map((times) => stages.reduce((sum, stage) => sum + times[stage], 0));
  const row = (name: string, ms: readonly number[]): Record<string, string> => ({
    stage: name,
    'ms, median': quantile(ms, 0.5).toFixed(0),
    'ms, 90 %': quantile(ms, 0.9).toFixed(0),
    'of all': `${((100 * quantile(ms, 0.5)) / quantile(totals, 0.5)).toFixed(0)} %`,
  });
  console.log(`\n${title}: ${pages.length} pages`);
  console.table([
    ...stages.map((stage) =>
      row(
        stage,
        pages.map((times) => times[stage]),
      ),
    ),
    row('all', totals),
  ]);
}
