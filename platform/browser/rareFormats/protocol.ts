import type { WireError } from '../../../core/errors';
import type { PixelImage } from '../../../core/imaging/raster/pixelImage';

/** What the worker for formats that a browser does not decode is asked, and what it answers. */
export interface RareRequest {
  readonly id: number;
  readonly type: 'image/heic' | 'image/jxl' | 'image/tiff' | 'application/pdf';
  readonly bytes: Uint8Array<ArrayBuffer>;
  readonly fileName: string;
  /** From 0; unused for photos. */
  readonly pdfPage: number;
}
export type RareReply =
  | { readonly id: number; readonly ok: true; readonly image: PixelImage }
  | { readonly id: number; readonly ok: false; readonly error: WireError };
