import { bytesToHex } from '@noble/hashes/utils';
import { sha256 } from '@noble/hashes/sha2';
import { encodeJbig2 } from '../../core/compress/jbig2';
import { proposeOutlines } from '../../core/detect/detectOutline';
import { FotoplanError, toWireError } from '../../core/errors';
import { scaleQuad } from '../../core/geometry/quad';
import { bindPdf, type PagePicture, type PdfPage } from '../../core/pdf/bindPdf';
import { measurePdf } from '../../core/pdf/openPdf';
import { A4_LONG_SIDE_MM, CARD_LONG_SIDE_MM, longSideAtDpi } from '../../core/pdf/paperSize';
import { checkPhotoFile, uprightSize } from '../../core/photo/checkPhotoFile';
import { fuseFrames } from '../../core/fuse/fuseFrames';
import { inspectShot } from '../../core/quality/inspectShot';
import { fitLongSide } from '../../core/raster/resizeByArea';
import type { PixelImage } from '../../core/raster/pixelImage';
import { applyFinish } from '../../core/finish/applyFinish';
import type { LitPage } from '../../core/finish/litPage';
import { suggestFinish } from '../../core/finish/suggestFinish';
import { isBilevel, PLAIN_LIGHT } from '../../core/finish/light';
import { readFrameFacts } from '../../core/live/frameFacts';
import { findBlemishes } from '../../core/mend/findBlemishes';
import { preparePage, renderedSize, renderPage, scaleMends, scaleRecipe, shapeOf } from '../../core/recipe/renderPage';
import { CHECK_EDGES_BELOW, isUntouched, type Recipe } from '../../core/recipe/recipe';
import { startRecipes } from '../../core/recipe/startRecipe';
import { decodeBlob } from '../../platform/browser/decodeBlob';
import { encodeJpeg } from '../../platform/browser/encodeJpeg';
import type { BindRequest, BindResult, CheckRequest, CheckResult, FactsRequest, FactsResult, FindRequest, FindResult, FromWorker, FuseRequest, FuseResult, LookRequest, LookResult, OriginalSource, OutlinesRequest, OutlinesResult, PageRequest, PageResult, RenderRequest, ToWorker } from './pageWorkerProtocol';

const scope = globalThis as unknown as { onmessage: ((event: MessageEvent<ToWorker>) => void) | null; postMessage(message: FromWorker): void };

/** Previews are made from a copy this large; a page view on a large screen shows no more. */
const PREVIEW_LONG_SIDE_PX = 1800;
const PREVIEWS_KEPT = 8;
const BIND_DPI = 200;
const BIND_QUALITY = 0.8;
const PREVIEW_QUALITY = 0.86;

const previews = new Map<string, { image: PixelImage; factor: number }>();
const cancelled = new Set<number>();

function keepPreview(key: string, photo: PixelImage): { image: PixelImage; factor: number } {
  const image = fitLongSide(photo, PREVIEW_LONG_SIDE_PX);
  const kept = { image, factor: image.width / photo.width };
  previews.set(key, kept);
  for (const oldest of previews.keys()) {
    if (previews.size <= PREVIEWS_KEPT) break;
    previews.delete(oldest);
  }
  return kept;
}

async function previewOf({ originalId, pdfPage, blob, fileName }: OriginalSource): Promise<{ image: PixelImage; factor: number }> {
  const key = `${originalId} ${pdfPage ?? ''}`;
  const kept = previews.get(key);
  if (kept === undefined) return keepPreview(key, await decodeBlob(blob, fileName, pdfPage));
  previews.delete(key);
  previews.set(key, kept);
  return kept;
}

async function check({ blob, fileName }: CheckRequest): Promise<CheckResult> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  const facts = checkPhotoFile(bytes, fileName);
  const originalId = bytesToHex(sha256(bytes));
  if (facts.type === 'application/pdf') return { originalId, isPdf: true, pages: await measurePdf(bytes, fileName) };
  if (facts.type !== 'image/heic' && facts.type !== 'image/tiff') return { originalId, isPdf: false, pages: [uprightSize(facts)] };
  // what the header says of these is not what is seen: only decoding tells
  const { width, height } = await decodeBlob(blob, fileName, null);
  return { originalId, isPdf: false, pages: [{ width, height }] };
}

async function find({ original: { blob, fileName, pdfPage }, finish, pageKind }: FindRequest): Promise<FindResult> {
  const photo = await decodeBlob(blob, fileName, pdfPage);
  const longSideMm = pageKind === 'card' ? CARD_LONG_SIDE_MM : A4_LONG_SIDE_MM;
  const pages = startRecipes(photo, finish, pageKind).map((recipe) => {
    const { corners, confidence } = recipe.outline;
    return { recipe, verdict: inspectShot(photo, corners, { wholePicture: confidence < CHECK_EDGES_BELOW, longSideMm }) };
  });
  return { width: photo.width, height: photo.height, pages };
}

async function outlines({ original }: OutlinesRequest): Promise<OutlinesResult> {
  const { image, factor } = await previewOf(original);
  const { found, targets } = proposeOutlines(image);
  return { found: found === null ? null : { ...found, quad: scaleQuad(found.quad, 1 / factor) }, targets: targets.map((quad) => scaleQuad(quad, 1 / factor)) };
}

/** Flat pages with their light, so that a slider costs only what comes after it; the few looked at last. */
const litPages = new Map<string, LitPage>();
const LIT_KEPT = 3;

async function litPage(original: OriginalSource, recipe: Recipe, longSidePx: number): Promise<LitPage> {
  const { outline, sheet, quarterTurns, mends } = recipe;
  const key = JSON.stringify([original.originalId, original.pdfPage, outline.corners, outline.bends, sheet, quarterTurns, mends, longSidePx]);
  const { image, factor } = await previewOf(original);
  const lit = litPages.get(key) ?? preparePage(image, scaleRecipe(recipe, factor), longSidePx, factor);
  litPages.delete(key);
  litPages.set(key, lit);
  for (const oldest of litPages.keys()) {
    if (litPages.size <= LIT_KEPT) break;
    litPages.delete(oldest);
  }
  return lit;
}

const LOOK_LONG_SIDE_PX = 1000;

async function look({ original, recipe }: LookRequest): Promise<LookResult> {
  const { image, factor } = await previewOf(original);
  const own = scaleRecipe(recipe, factor);
  const lit = await litPage(original, recipe, LOOK_LONG_SIDE_PX);
  const blemishes = findBlemishes(lit.page, lit.field, shapeOf(image.width, image.height, own)).map((blemish) => ({ ...blemish, mends: scaleMends(blemish.mends, 1 / factor) }));
  return { suggested: suggestFinish(lit), blemishes };
}

const FACTS_LONG_SIDE_PX = 1500;
/** How much of the page's height its head and its foot are. */
const STRIP_SHARE = 0.11;

async function facts({ original, recipe }: FactsRequest): Promise<FactsResult> {
  const lit = await litPage(original, recipe, FACTS_LONG_SIDE_PX);
  const page = applyFinish(lit, 'daylight', PLAIN_LIGHT);
  const { width, height, channels, data } = page;
  const rows = Math.round(STRIP_SHARE * height);
  const strip = (first: number): PixelImage => ({ width, height: rows, channels, data: data.slice(first * width * channels, (first + rows) * width * channels) });
  return {
    blank: suggestFinish(lit) === null,
    fingerprint: readFrameFacts(page, null).fingerprint,
    strips: await Promise.all([strip(0), strip(height - rows)].map((image) => encodeJpeg(image, STRIP_QUALITY))),
  };
}

const STRIP_QUALITY = 0.9;
const FUSED_QUALITY = 0.92;

async function fuse({ frames }: FuseRequest): Promise<FuseResult> {
  const pictures: PixelImage[] = [];
  for (const frame of frames) pictures.push(await decodeBlob(frame, 'frame', null));
  const { image, used } = fuseFrames(pictures);
  return { photo: await encodeJpeg(image, FUSED_QUALITY), used };
}

async function bind({ title, paper, nowMs, pages }: BindRequest, id: number): Promise<BindResult> {
  const pageBytes: number[] = [];
  let pdf: { originalId: string; bytes: Uint8Array } | null = null;
  const pictures = async function* (): AsyncGenerator<PagePicture | PdfPage> {
    for (const { original, recipe } of pages) {
      if (cancelled.delete(id)) throw new FotoplanError('CANCELLED', 'Binding was stopped. Nothing was changed.');
      const { pdfPage, blob } = original;
      if (pdfPage !== null && isUntouched(recipe)) {
        if (pdf?.originalId !== original.originalId) pdf = { originalId: original.originalId, bytes: new Uint8Array(await blob.arrayBuffer()) };
        // its share of the file: what it shares with other pages (fonts) is not told apart
        pageBytes.push(Math.round(blob.size / pages.filter((p) => p.original.originalId === original.originalId).length));
        scope.postMessage({ id, progress: pageBytes.length / pages.length });
        yield { pdf: pdf.bytes, pdfPage, quarterTurns: recipe.quarterTurns };
        continue;
      }
      const photo = await decodeBlob(blob, original.fileName, pdfPage);
      const size = renderedSize(photo.width, photo.height, recipe);
      const page = renderPage(photo, recipe, longSideAtDpi(size.width, size.height, paper, BIND_DPI, recipe.kind));
      const coding = isBilevel(recipe.finish) ? 'jbig2' : 'jpeg';
      const coded = coding === 'jbig2' ? encodeJbig2(page) : new Uint8Array(await (await encodeJpeg(page, BIND_QUALITY)).arrayBuffer());
      pageBytes.push(coded.length);
      scope.postMessage({ id, progress: pageBytes.length / pages.length });
      yield { coding, bytes: coded, width: page.width, height: page.height, kind: recipe.kind };
    }
  };
  const bytes = await bindPdf(pictures(), { title, paper, nowMs });
  return { pdf: new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/pdf' }), sha256: bytesToHex(sha256(bytes)), pageBytes };
}

async function show({ original, recipe, longSidePx }: RenderRequest): Promise<PixelImage> {
  if (recipe === null) return fitLongSide((await previewOf(original)).image, longSidePx);
  // closer than the copy that is kept: all the photo has
  if (longSidePx > PREVIEW_LONG_SIDE_PX) return renderPage(await decodeBlob(original.blob, original.fileName, original.pdfPage), recipe, longSidePx);
  return applyFinish(await litPage(original, recipe, longSidePx), recipe.finish, recipe.light);
}

async function answer(id: number, request: PageRequest): Promise<PageResult> {
  switch (request.kind) {
    case 'check':
      return check(request);
    case 'fuse':
      return fuse(request);
    case 'bind':
      return bind(request, id);
    case 'find':
      return find(request);
    case 'outlines':
      return outlines(request);
    case 'facts':
      return facts(request);
    case 'look':
      return look(request);
    case 'render': {
      const page = await show(request);
      return { picture: await encodeJpeg(page, PREVIEW_QUALITY), width: page.width, height: page.height };
    }
  }
}

scope.onmessage = ({ data }) => {
  if ('cancel' in data) {
    cancelled.add(data.id);
    return;
  }
  const { id, request } = data;
  answer(id, request).then(
    (result) => scope.postMessage({ id, ok: true, result }),
    (error: unknown) => scope.postMessage({ id, ok: false, error: toWireError(error, 'This page could not be worked on. Reload and try again; nothing is lost.') }),
  );
};
