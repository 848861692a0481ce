import { bytesToHex } from '@noble/hashes/utils';
import { sha256 } from '@noble/hashes/sha2';
import { FotoplanError, toWireError } from '../../core/errors';
import { scaleQuad } from '../../core/geometry/quad';
import { bindPdf, type PagePicture } from '../../core/pdf/bindPdf';
import { longSideAtDpi } from '../../core/pdf/paperSize';
import { checkPhotoFile } from '../../core/photo/checkPhotoFile';
import { fitLongSide } from '../../core/raster/resizeByArea';
import type { PixelImage } from '../../core/raster/pixelImage';
import { renderedSize, renderPage } from '../../core/recipe/renderPage';
import type { Recipe } from '../../core/recipe/recipe';
import { startRecipe } from '../../core/recipe/startRecipe';
import { decodeBlob } from '../../platform/browser/decodeBlob';
import { encodeJpeg } from '../../platform/browser/encodeJpeg';
import type { BindRequest, BindResult, FromWorker, IntakeRequest, IntakeResult, OriginalSource, PageRequest, PageResult, ToWorker } from './pageWorkerProtocol';

const scope = globalThis as unknown as { onmessage: ((event: MessageEvent<ToWorker>) => void) | null; postMessage(message: FromWorker): void };

/** Previews are made from a copy this large; a page view on a large screen shows no more. */
const PREVIEW_LONG_SIDE_PX = 1800;
const PREVIEWS_KEPT = 8;
const BIND_DPI = 200;
const BIND_QUALITY = 0.8;
const PREVIEW_QUALITY = 0.86;

const previews = new Map<string, { image: PixelImage; factor: number }>();
const cancelled = new Set<number>();

function keepPreview(originalId: string, photo: PixelImage): { image: PixelImage; factor: number } {
  const image = fitLongSide(photo, PREVIEW_LONG_SIDE_PX);
  const kept = { image, factor: image.width / photo.width };
  previews.set(originalId, kept);
  for (const oldest of previews.keys()) {
    if (previews.size <= PREVIEWS_KEPT) break;
    previews.delete(oldest);
  }
  return kept;
}

async function previewOf({ originalId, blob, fileName }: OriginalSource): Promise<{ image: PixelImage; factor: number }> {
  const kept = previews.get(originalId);
  if (kept === undefined) return keepPreview(originalId, await decodeBlob(blob, fileName));
  previews.delete(originalId);
  previews.set(originalId, kept);
  return kept;
}

async function intake({ blob, fileName, finish }: IntakeRequest): Promise<IntakeResult> {
  const bytes = new Uint8Array(await blob.arrayBuffer());
  checkPhotoFile(bytes, fileName);
  const originalId = bytesToHex(sha256(bytes));
  const photo = await decodeBlob(blob, fileName);
  keepPreview(originalId, photo);
  return { originalId, width: photo.width, height: photo.height, recipe: startRecipe(photo, finish) };
}

const scaleRecipe = (recipe: Recipe, factor: number): Recipe => ({ ...recipe, outline: { ...recipe.outline, corners: scaleQuad(recipe.outline.corners, factor) } });

async function bind({ title, paper, nowMs, pages }: BindRequest, id: number): Promise<BindResult> {
  const pageBytes: number[] = [];
  const pictures = async function* (): AsyncGenerator<PagePicture> {
    for (const { original, recipe } of pages) {
      if (cancelled.delete(id)) throw new FotoplanError('CANCELLED', 'Binding was stopped. Nothing was changed.');
      const photo = await decodeBlob(original.blob, original.fileName);
      const size = renderedSize(photo.width, photo.height, recipe);
      const page = renderPage(photo, recipe, longSideAtDpi(size.width, size.height, paper, BIND_DPI));
      const jpeg = new Uint8Array(await (await encodeJpeg(page, BIND_QUALITY)).arrayBuffer());
      pageBytes.push(jpeg.length);
      scope.postMessage({ id, progress: pageBytes.length / pages.length });
      yield { jpeg, width: page.width, height: page.height };
    }
  };
  const bytes = await bindPdf(pictures(), { title, paper, nowMs });
  return { pdf: new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/pdf' }), sha256: bytesToHex(sha256(bytes)), pageBytes };
}

async function answer(id: number, request: PageRequest): Promise<PageResult> {
  switch (request.kind) {
    case 'intake':
      return intake(request);
    case 'bind':
      return bind(request, id);
    case 'find':
      return startRecipe(await decodeBlob(request.original.blob, request.original.fileName), request.finish);
    case 'render': {
      const { image, factor } = await previewOf(request.original);
      const page = request.recipe === null ? fitLongSide(image, request.longSidePx) : renderPage(image, scaleRecipe(request.recipe, factor), request.longSidePx);
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
