import { bytesToHex } from '@noble/hashes/utils';
import { sha256 } from '@noble/hashes/sha2';
import { proposeOutlines } from '../../core/detect/detectOutline';
import { toWireError } from '../../core/errors';
import { scaleQuad } from '../../core/geometry/quad';
import type { CodedPage } from '../../core/compress/codePage';
import { renderCoded, type LendPhoto } from '../../core/compress/renderCoded';
import { bindPdf } from '../../core/pdf/bindPdf';
import type { BoundPage } from '../../core/pdf/boundPage';
import { measurePdf } from '../../core/pdf/openPdf';
import { A4_LONG_SIDE_MM, CARD_LONG_SIDE_MM } from '../../core/pdf/paperSize';
import { checkPhotoFile, uprightSize } from '../../core/photo/checkPhotoFile';
import { fuseFrames } from '../../core/fuse/fuseFrames';
import { inspectShot, type ShotVerdict } from '../../core/quality/inspectShot';
import { fitLongSide } from '../../core/raster/resizeByArea';
import type { PixelImage } from '../../core/raster/pixelImage';
import { releaseBuffers } from '../../core/raster/releaseBuffers';
import { applyFinish, startFinish, type StartedFinish } from '../../core/finish/applyFinish';
import type { LitPage } from '../../core/finish/litPage';
import { suggestFinish } from '../../core/finish/suggestFinish';
import { PLAIN_LIGHT } from '../../core/finish/light';
import { readFrameFacts } from '../../core/live/frameFacts';
import { findBlemishes } from '../../core/mend/findBlemishes';
import { preparePage, renderPage, scaleMends, scaleRecipe, shapeOf } from '../../core/recipe/renderPage';
import { CHECK_EDGES_BELOW, type Recipe } from '../../core/recipe/recipe';
import { startRecipes } from '../../core/recipe/startRecipe';
import { decodeBlob, lendDecoded } from '../../platform/browser/decodeBlob';
import { encodeJpeg, encodePng, toBitmap } from '../../platform/browser/encodePicture';
import type { AssembleRequest, AssembleResult, CheckRequest, CheckResult, CodeRequest, DrawRequest, FactsRequest, FactsResult, FindRequest, InspectRequest, FindResult, FromWorker, FuseRequest, FuseResult, LookRequest, LookResult, OriginalSource, OutlinesRequest, OutlinesResult, PageRequest, PageResult, PictureRequest, RenderRequest, ToWorker } from './pageWorkerProtocol';

const scope = globalThis as unknown as { onmessage: ((event: MessageEvent<ToWorker>) => void) | null; postMessage(message: FromWorker, transfer?: Transferable[]): void };

/** Previews are made from a copy this large; a page view on a large screen shows no more. */
const PREVIEW_LONG_SIDE_PX = 1800;
const PREVIEWS_KEPT = 5;
const PREVIEW_QUALITY = 0.86;

const previews = new Map<string, { image: PixelImage; factor: number }>();

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

async function previewOf(original: OriginalSource): Promise<{ image: PixelImage; factor: number }> {
  const key = `${original.originalId} ${original.pdfPage ?? ''}`;
  const kept = previews.get(key);
  if (kept === undefined) {
    const photo = await decodeBlob(original.blob, original.fileName, original.pdfPage);
    const preview = keepPreview(key, photo);
    // a small photo is its own preview
    if (preview.image !== photo) releaseBuffers(photo.data);
    return preview;
  }
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

const find = ({ original, finish, pageKind }: FindRequest): Promise<FindResult> =>
  lend(original)((photo) => ({ width: photo.width, height: photo.height, pages: startRecipes(photo, finish, pageKind).map((recipe) => ({ recipe, verdict: verdictOn(photo, recipe) })) }));

const verdictOn = (photo: PixelImage, { outline: { corners, confidence }, kind }: Recipe): ShotVerdict =>
  inspectShot(photo, corners, { wholePicture: confidence < CHECK_EDGES_BELOW, longSideMm: kind === 'card' ? CARD_LONG_SIDE_MM : A4_LONG_SIDE_MM });

const inspect = ({ original, recipe }: InspectRequest): Promise<ShotVerdict> => lend(original)((photo) => verdictOn(photo, recipe));

async function outlines({ original }: OutlinesRequest): Promise<OutlinesResult> {
  const { image, factor } = await previewOf(original);
  const { found, targets } = proposeOutlines(image);
  return { found: found === null ? null : { ...found, quad: scaleQuad(found.quad, 1 / factor) }, targets: targets.map((quad) => scaleQuad(quad, 1 / factor)) };
}

/** Flat pages with their light, so that a slider costs only what comes after it; the few looked at last. */
const litPages = new Map<string, LitPage>();
const LIT_KEPT = 2;

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

/** The finish looked at last: while a slider moves, only what follows it is done again. */
let started: { readonly lit: LitPage; readonly key: string; readonly set: StartedFinish } | null = null;

function finishOf(lit: LitPage, { finish, light }: Recipe): PixelImage {
  const key = `${finish} ${light.fadeRules} ${light.invert}`;
  if (started?.lit !== lit || started.key !== key) started = { lit, key, set: startFinish(lit, finish, light) };
  return started.set(light);
}

function forgetPreviews(): void {
  previews.clear();
  litPages.clear();
  started = null;
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

function lend({ blob, fileName, pdfPage }: OriginalSource): LendPhoto {
  return async (use) => {
    const photo = await decodeBlob(blob, fileName, pdfPage);
    const made = use(photo);
    releaseBuffers(photo.data);
    return made;
  };
}

/** About how much of coding a page is done once its photo is decoded. */
const DECODED_SHARE = 0.12;

function code({ original: { blob, fileName, pdfPage }, recipe, coding, paper }: CodeRequest, tell: (share: number) => void): Promise<CodedPage> {
  // many pages are bound in a row: what was looked at before has to make room
  forgetPreviews();
  const encode = async (page: PixelImage, quality: number): Promise<Uint8Array> => new Uint8Array(await (await encodeJpeg(page, quality)).arrayBuffer());
  return renderCoded((use) => lendDecoded(blob, fileName, pdfPage, use, () => tell(DECODED_SHARE)), recipe, coding, paper, encode, tell);
}

/** For the cover sheet and notes; fetched only when there is one. */
const FONT_URL = '/workers/AtkinsonHyperlegibleNext.ttf';

async function assemble({ options, pages }: AssembleRequest): Promise<AssembleResult> {
  const needsFont = options.cover !== undefined || pages.some(({ marks }) => marks.some(({ kind }) => kind === 'note'));
  const font = needsFont ? new Uint8Array(await (await fetch(FONT_URL)).arrayBuffer()) : undefined;
  const pdfs = new Map<Blob, Uint8Array>();
  const bound = async function* (): AsyncGenerator<BoundPage> {
    for (const { content, kind, words, marks } of pages) {
      if (!('blob' in content)) {
        yield { content, kind, words, marks };
        continue;
      }
      const { blob, ...page } = content;
      const pdf = pdfs.get(blob) ?? new Uint8Array(await blob.arrayBuffer());
      pdfs.set(blob, pdf);
      yield { content: { ...page, pdf }, kind, words, marks };
    }
  };
  const bytes = await bindPdf(bound(), { ...options, ...(font === undefined ? {} : { font }) });
  return { pdf: new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/pdf' }), sha256: bytesToHex(sha256(bytes)) };
}

const PICTURE_QUALITY = 0.9;

async function picture({ original, recipe, format }: PictureRequest): Promise<Blob> {
  const page = renderPage(await decodeBlob(original.blob, original.fileName, original.pdfPage), recipe, Infinity);
  return format === 'jpeg' ? encodeJpeg(page, PICTURE_QUALITY) : encodePng(page);
}

async function show({ original, recipe, longSidePx }: RenderRequest | DrawRequest): Promise<PixelImage> {
  if (recipe === null) return fitLongSide((await previewOf(original)).image, longSidePx);
  // closer than the copy that is kept: all the photo has
  if (longSidePx > PREVIEW_LONG_SIDE_PX) return renderPage(await decodeBlob(original.blob, original.fileName, original.pdfPage), recipe, longSidePx);
  // Press is made larger than it is shown
  return fitLongSide(finishOf(await litPage(original, recipe, longSidePx), recipe), longSidePx);
}

async function answer(request: PageRequest, tell: (share: number) => void): Promise<PageResult> {
  switch (request.kind) {
    case 'check':
      return check(request);
    case 'fuse':
      return fuse(request);
    case 'code':
      return code(request, tell);
    case 'assemble':
      return assemble(request);
    case 'picture':
      return picture(request);
    case 'find':
      return find(request);
    case 'inspect':
      return inspect(request);
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
    case 'draw':
      return toBitmap(await show(request));
  }
}

scope.onmessage = ({ data: { id, request } }) => {
  answer(request, (share) => scope.postMessage({ id, share })).then(
    (result) => scope.postMessage({ id, ok: true, result }, result instanceof ImageBitmap ? [result] : []),
    (error: unknown) => scope.postMessage({ id, ok: false, error: toWireError(error, 'This page could not be worked on. Reload and try again; nothing is lost.') }),
  );
};
