import { jpegCodec } from '../platform/node/jpegCodec';
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { bytesOf } from '../core/imaging/layers/codedPage';
import { FINEST } from '../core/imaging/layers/codedPage';
import { bindWithin } from '../core/work/pdf/bindWithin';
import { greyOf, similarityOf, type Likeness } from '../core/imaging/layers/layerSimilarity';
import { renderCoded } from '../core/work/render/renderCoded';
import { isBilevel, type Finish } from '../core/imaging/finish/finishSettings';
import { bindPdf } from '../core/work/pdf/bindPdf';
import type { BoundPage } from '../core/work/pdf/boundPage';
import { drawCoded } from '../core/work/pdf/drawCoded';
import { createPixelImage, type PixelImage } from '../core/imaging/raster/pixelImage';
import { wholePhotoRecipe } from '../core/work/recipe/plainRecipe';
import type { Recipe } from '../core/work/recipe/recipe';
import { decodePhoto } from '../platform/node/decodePhoto';
import { avifAsLike, jpegOfBytes } from './peers';
import { openTextJudge } from './readText';
import { loadScoredPhotos, type ScoredPhoto } from './scoredPhotos';
import { mean, percent, quantile } from './statistics';

/** Pages measured: every content is among them more than once. */
const PHOTOS = 16;
const FINISHES: readonly Finish[] = ['daylight', 'pencil', 'press'];
const WORST_SHOWN = 10;
/** Ten pages in one file may have this. */
const LIMIT_BYTES = 1_000_000;
const LIMIT_PAGES = 10;

interface BindScore {
  readonly name: string;
  readonly content: string;
  readonly finish: Finish;
  readonly coding: string;
  readonly bytes: number;
  /** The same render as a mozjpeg of quality 75, or as CCITT G4 where it has two levels. */
  readonly peerBytes: number;
  /** Null where it is coded without loss, which the tests hold bit for bit. */
  readonly likeness: Likeness | null;
  /** In Daylight: the best JPEG of no more bytes, and the bytes of an AVIF that is as like it about ink. */
  readonly jpeg: Likeness | null;
  readonly avifBytes: number | null;
  readonly misread: number | null;
  readonly ms: number;
  readonly render: PixelImage;
  readonly decoded: PixelImage;
}

/** Scores pages as they are coded for a file, drawn again by poppler, on simulated photos with their true outline. */
export async function benchBind(photoFolder: string, outFolder: string): Promise<void> {
  const folder = mkdtempSync(path.join(tmpdir(), 'fotoplan-bind-'));
  const reader = await openTextJudge();
  const scores: BindScore[] = [];
  const pages: { readonly photo: ScoredPhoto; readonly recipe: Recipe }[] = [];
  for await (const photo of loadScoredPhotos(photoFolder)) {
    if (pages.length === PHOTOS) break;
    const { width, height, corners, scene } = photo.truth;
    if (!corners.every((p) => p.x > 0 && p.y > 0 && p.x < width && p.y < height) || scene.shape.kind !== 'flat')
      continue;
    const whole = wholePhotoRecipe(width, height, 'daylight');
    const recipe: Recipe = { ...whole, outline: { ...whole.outline, corners, by: 'hand' } };
    pages.push({ photo, recipe });
    for (const finish of FINISHES) scores.push(await score(photo, { ...recipe, finish }, folder, reader));
  }
  print(scores);
  drawWorst(scores, outFolder);
  await benchLimit(pages);
  await reader.close();
  rmSync(folder, { recursive: true });
}

async function score(
  { name, image, truth }: ScoredPhoto,
  recipe: Recipe,
  folder: string,
  reader: Awaited<ReturnType<typeof openTextJudge>>,
): Promise<BindScore> {
  let began = 0;
  let render = createPixelImage(1, 1, 1);
  const coded = await renderCoded((use) => Promise.resolve(use(image)), recipe, {
    coding: FINEST,
    paper: 'a4',
    jpeg: jpegCodec,
    onFinished: (page) => {
      render = { ...page, data: page.data.slice() };
      began = performance.now();
      return Promise.resolve();
    },
  });
  const ms = performance.now() - began;
  const { width, height } = render;
  const raw = sharp(render.data, { raw: { width, height, channels: render.channels } });
  const peer = isBilevel(recipe.finish)
    ? raw.toColourspace('b-w').tiff({ compression: 'ccittfax4', bitdepth: 1 })
    : raw.jpeg({ quality: 75, mozjpeg: true });
  const file = path.join(folder, 'page.pdf');
  writeFileSync(file, await bindPdf([{ content: coded, kind: 'sheet' }], { title: name, paper: 'asshot' }));
  execFileSync('qpdf', ['--check', file], { stdio: 'ignore' });
  // one point a pixel: a page of millimetres would be drawn a fraction of a pixel off
  const exact = await PDFDocument.create();
  await drawCoded(exact, exact.addPage([width, height]), coded, { x: 0, y: 0, width, height });
  writeFileSync(file, await exact.save());
  execFileSync('pdftoppm', ['-png', '-singlefile', '-r', '72', file, path.join(folder, 'page')]);
  const decoded = await decodePhoto(await sharp(path.join(folder, 'page.png')).png().toBuffer(), 'page.png');
  const likeness = coded.coding === 'jbig2' ? null : similarityOf(greyOf(render), greyOf(decoded), width, height);
  const compared = recipe.finish === 'daylight' && likeness !== null;
  const text = truth.lines.map((line) => line.text).join(' ');
  const misread =
    truth.scene.page.kind === 'printed'
      ? (await reader.errors(decoded, text)) - (await reader.errors(render, text))
      : null;
  return {
    name,
    content: truth.scene.page.kind,
    finish: recipe.finish,
    coding: coded.coding,
    bytes: bytesOf(coded),
    peerBytes: (await peer.toBuffer()).length,
    likeness,
    jpeg: compared ? await jpegOfBytes(render, bytesOf(coded)) : null,
    avifBytes: compared ? await avifAsLike(render, likeness.ink) : null,
    misread,
    ms,
    render,
    decoded,
  };
}

/** More like the page about its ink, and no less like it in all. */
const isJpegBetter = ({ jpeg, likeness }: BindScore): boolean =>
  jpeg !== null && likeness !== null && jpeg.ink > likeness.ink && jpeg.ink + jpeg.all > likeness.ink + likeness.all;

function print(scores: readonly BindScore[]): void {
  const rows = FINISHES.flatMap((finish) =>
    ['all', ...new Set(scores.map(({ content }) => content))].map((content) => ({
      finish,
      content,
      part: scores.filter((each) => each.finish === finish && (content === 'all' || each.content === content)),
    })),
  );
  console.table(
    rows.map(({ finish, content, part }) => {
      const misread = part.flatMap((each) => each.misread ?? []);
      const likeness = part.flatMap((each) => each.likeness?.ink ?? []);
      const besideAvif = part.filter((each) => each.avifBytes !== null);
      return {
        finish,
        content,
        pages: part.length,
        'KB a page': (mean(part.map((p) => p.bytes)) / 1000).toFixed(1),
        'beside, KB': (mean(part.map((p) => p.peerBytes)) / 1000).toFixed(1),
        share: (mean(part.map((p) => p.bytes)) / mean(part.map((p) => p.peerBytes))).toFixed(3),
        'SSIM on ink, mean': likeness.length === 0 ? '' : mean(likeness).toFixed(3),
        lowest: likeness.length === 0 ? '' : Math.min(...likeness).toFixed(3),
        'of AVIF as like':
          besideAvif.length === 0
            ? ''
            : (mean(besideAvif.map((p) => p.bytes)) / mean(besideAvif.map((p) => p.avifBytes!))).toFixed(2),
        'JPEG better': besideAvif.length === 0 ? '' : besideAvif.filter(isJpegBetter).length,
        'misread more': misread.length === 0 ? '' : percent(mean(misread)),
        'coded as': [...new Set(part.map((p) => p.coding))].join(', '),
        'ms, median': Math.round(
          quantile(
            part.map((p) => p.ms),
            0.5,
          ),
        ),
      };
    }),
  );
  console.log(
    'Beside: the same render as JPEG-in-PDF of quality 75 (mozjpeg); for Press, CCITT G4. “JPEG better”: pages where a mozjpeg of no more bytes is more like.',
  );
}

async function drawRow(file: string, pictures: readonly PixelImage[]): Promise<void> {
  const shown = await Promise.all(
    pictures.map(({ width, height, channels, data }) =>
      sharp(data, { raw: { width, height, channels } })
        .extract({
          left: Math.floor(width / 4),
          top: Math.floor(height / 8),
          width: Math.floor(width / 2),
          height: Math.floor(height / 4),
        })
        .png()
        .toBuffer(),
    ),
  );
  const { width = 1, height = 1 } = await sharp(shown[0]).metadata();
  await sharp({ create: { width: 2 * width + 10, height, channels: 3, background: '#888' } })
    .composite(shown.map((input, i) => ({ input, left: i * (width + 10), top: 0 })))
    .jpeg()
    .toFile(file);
}

function drawWorst(scores: readonly BindScore[], outFolder: string): void {
  rmSync(outFolder, { recursive: true, force: true });
  mkdirSync(outFolder, { recursive: true });
  const worst = [...scores].sort((a, b) => (a.likeness?.ink ?? 1) - (b.likeness?.ink ?? 1)).slice(0, WORST_SHOWN);
  for (const [rank, { name, finish, render, decoded }] of worst.entries())
    void drawRow(path.join(outFolder, `${String(rank + 1).padStart(2, '0')}-${name}-${finish}.jpg`), [render, decoded]);
  console.log(
    `The worst ${worst.length} by likeness are drawn in ${outFolder} (as finished, as poppler draws the file).`,
  );
}

/** Ten mixed pages under one megabyte, and what that took. */
async function benchLimit(pages: readonly { readonly photo: ScoredPhoto; readonly recipe: Recipe }[]): Promise<void> {
  const ten = pages.slice(0, LIMIT_PAGES);
  const began = performance.now();
  const { files, codings } = await bindWithin<BoundPage, Uint8Array>(
    {
      pages: ten.length,
      code: async (i, coding) => {
        const { photo, recipe } = ten[i]!;
        const content = await renderCoded((use) => Promise.resolve(use(photo.image)), recipe, {
          coding,
          paper: 'a4',
          jpeg: jpegCodec,
        });
        return { page: { content, kind: 'sheet' }, bytes: bytesOf(content), as: content.coding };
      },
      assemble: async (bound) => {
        const file = await bindPdf(bound, { title: 'Ten pages', paper: 'a4' });
        return { file, bytes: file.length };
      },
    },
    LIMIT_BYTES,
  );
  console.log(
    `${ten.length} mixed Daylight pages under ${LIMIT_BYTES} bytes: ${files[0]!.file.length} bytes, given up of each, per cent: ${codings.join(', ')}, ${((performance.now() - began) / 1000).toFixed(1)} s on one core`,
  );
}
