import decodeJpegXl from '@jsquash/jxl/decode';
import decodeHeic from 'heic-decode';
import { getDocument, type PDFDocumentProxy } from 'pdfjs-dist';
import { WorkerMessageHandler } from 'pdfjs-dist/build/pdf.worker.mjs';
import UTIF from 'utif2';
import { FotoplanError, toWireError, type WireError } from '../../../core/errors';
import { pixelImageFrom, type PixelImage } from '../../../core/imaging/raster/pixelImage';
import { displayP3ToSrgb, isDisplayP3 } from '../../../core/work/photo/displayP3';
import { PDF_DPI } from '../../../core/work/pdf/openPdf';
import type { RareReply, RareRequest } from './protocol';

/*
 * The worker for HEIC, JPEG XL, TIFF and PDF, loaded only when such a file comes. It is bundled by esbuild beside the app, because it
 * weighs more than the rest of it together.
 */

const scope = globalThis as unknown as {
  onmessage: ((event: MessageEvent<RareRequest>) => void) | null;
  postMessage(message: RareReply, transfer: Transferable[]): void;
  pdfjsWorker: unknown;
};
// this is a worker already: pdf.js finds its own half here and starts no other
scope.pdfjsWorker = { WorkerMessageHandler };

async function heic(bytes: Uint8Array<ArrayBuffer>): Promise<PixelImage> {
  const { width, height, data } = await decodeHeic({ buffer: bytes });
  const stored = pixelImageFrom(width, height, 4, data as Uint8ClampedArray<ArrayBuffer>);
  return isDisplayP3(bytes) ? displayP3ToSrgb(stored) : stored;
}

/** libjxl turns the picture upright and converts it to sRGB itself; what it runs is fetched from beside this worker. */
async function jpegXl(bytes: Uint8Array<ArrayBuffer>): Promise<PixelImage> {
  const { width, height, data } = await decodeJpegXl(bytes.buffer);
  return drawn(width, height, data, 0);
}

/** TIFF orientation (tag 274) as quarter turns clockwise; mirrored ones are not made by scanners or cameras. */
const TURNS: Readonly<Record<number, number>> = { 3: 2, 6: 1, 8: 3 };

function tiff(bytes: ArrayBuffer): PixelImage {
  const [first] = UTIF.decode(bytes);
  if (first === undefined) throw new Error('no picture in the TIFF');
  UTIF.decodeImage(bytes, first);
  const rgba = UTIF.toRGBA8(first);
  const orientation = (first as unknown as { t274?: readonly number[] }).t274?.[0] ?? 1;
  const data = new Uint8ClampedArray(rgba.buffer as ArrayBuffer, rgba.byteOffset, rgba.length);
  const turns = TURNS[orientation] ?? 0;
  return turns === 0
    ? pixelImageFrom(first.width, first.height, 4, data)
    : drawn(first.width, first.height, data, turns);
}

/** An RGBA picture on white, turned clockwise. */
function drawn(width: number, height: number, data: Uint8ClampedArray<ArrayBuffer>, quarterTurns: number): PixelImage {
  const across = quarterTurns % 2 === 1;
  const canvas = new OffscreenCanvas(across ? height : width, across ? width : height);
  const context = canvas.getContext('2d')!;
  const from = new OffscreenCanvas(width, height);
  from.getContext('2d')!.putImageData(new ImageData(data, width, height), 0, 0);
  context.fillStyle = '#fff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.translate(canvas.width / 2, canvas.height / 2);
  context.rotate((quarterTurns * Math.PI) / 2);
  context.drawImage(from, -width / 2, -height / 2);
  return pixelImageFrom(canvas.width, canvas.height, 4, context.getImageData(0, 0, canvas.width, canvas.height).data);
}

/** pdf.js draws on what is given to it here; it has no page to make canvases in. */
class WorkerCanvasFactory {
  create(width: number, height: number): { canvas: OffscreenCanvas; context: OffscreenCanvasRenderingContext2D } {
    const canvas = new OffscreenCanvas(Math.max(1, width), Math.max(1, height));
    return { canvas, context: canvas.getContext('2d', { willReadFrequently: true })! };
  }
  reset({ canvas }: { canvas: OffscreenCanvas }, width: number, height: number): void {
    canvas.width = width;
    canvas.height = height;
  }
  destroy({ canvas }: { canvas: OffscreenCanvas }): void {
    canvas.width = 0;
    canvas.height = 0;
  }
}

/** Filters (for luminosity masks) need a page; without one the picture is drawn without them. */
class NoFilterFactory {
  addFilter = (): string => 'none';
  addHCMFilter = (): string => 'none';
  addAlphaFilter = (): string => 'none';
  addLuminosityFilter = (): string => 'none';
  addHighlightHCMFilter = (): string => 'none';
  destroy = (): void => undefined;
}

async function withPdf<T>(
  bytes: Uint8Array<ArrayBuffer>,
  fileName: string,
  work: (pdf: PDFDocumentProxy) => Promise<T>,
): Promise<T> {
  const loading = getDocument({
    data: bytes,
    isEvalSupported: false,
    disableFontFace: true,
    useSystemFonts: false,
    standardFontDataUrl: '/workers/standard_fonts/',
    cMapUrl: '/workers/cmaps/',
    wasmUrl: '/workers/wasm/',
    useWorkerFetch: false,
    verbosity: 0,
    CanvasFactory: WorkerCanvasFactory,
    FilterFactory: NoFilterFactory,
  });
  try {
    return await work(await loading.promise);
  } catch (cause) {
    const locked = cause instanceof Error && cause.name === 'PasswordException';
    throw new FotoplanError(
      'PDF_UNREADABLE',
      locked
        ? `“${fileName}” is locked with a password. Save a copy without one and add that.`
        : `“${fileName}” is a damaged PDF. Save it again from where it came, or add photos of its pages.`,
      { fileName },
      { cause },
    );
  } finally {
    await loading.destroy();
  }
}

const SCALE = PDF_DPI / 72;

const drawPdf = (bytes: Uint8Array<ArrayBuffer>, fileName: string, pdfPage: number): Promise<PixelImage> =>
  withPdf(bytes, fileName, async (pdf) => {
    const page = await pdf.getPage(pdfPage + 1);
    const viewport = page.getViewport({ scale: SCALE });
    const canvas = new OffscreenCanvas(
      Math.max(1, Math.round(viewport.width)),
      Math.max(1, Math.round(viewport.height)),
    );
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    context.fillStyle = '#fff';
    context.fillRect(0, 0, canvas.width, canvas.height);
    await page.render({ canvas: null, canvasContext: context as unknown as CanvasRenderingContext2D, viewport })
      .promise;
    return pixelImageFrom(canvas.width, canvas.height, 4, context.getImageData(0, 0, canvas.width, canvas.height).data);
  });

const damaged = (fileName: string): WireError => ({
  code: 'PHOTO_UNREADABLE',
  message: `“${fileName}” is damaged inside. Copy it from the phone again, or shoot the page again.`,
  facts: {},
});

async function decode({ type, bytes, fileName, pdfPage }: RareRequest): Promise<PixelImage> {
  if (type === 'application/pdf') return drawPdf(bytes, fileName, pdfPage);
  if (type === 'image/jxl') return jpegXl(bytes);
  return type === 'image/heic' ? heic(bytes) : tiff(bytes.buffer);
}

scope.onmessage = ({ data }) => {
  decode(data).then(
    (image) => scope.postMessage({ id: data.id, ok: true, image }, [image.data.buffer]),
    (error: unknown) =>
      scope.postMessage(
        {
          id: data.id,
          ok: false,
          error: error instanceof FotoplanError ? toWireError(error, '') : damaged(data.fileName),
        },
        [],
      ),
  );
};
