import type { PixelBox } from './pixelBox';
import type { Rgb } from './inkColours';
import type { PixelImage } from '../raster/pixelImage';

/** A finished page, coded, with its size in px. */
export type CodedPage = CodedPicture | CodedLayers;

/** One picture: a JPEG file, or the segments of encodeJbig2. */
export interface CodedPicture {
  readonly coding: 'jpeg' | 'jbig2';
  readonly bytes: Uint8Array;
  readonly width: number;
  readonly height: number;
}

/** Ink masks as JBIG2 over a small JPEG, and pictures as JPEG on top. */
export interface CodedLayers {
  readonly coding: 'layers';
  readonly width: number;
  readonly height: number;
  readonly background: { readonly bytes: Uint8Array; readonly width: number; readonly height: number } | null;
  readonly inks: readonly { readonly colour: Rgb; readonly box: PixelBox; readonly bytes: Uint8Array }[];
  readonly pictures: readonly { readonly box: PixelBox; readonly bytes: Uint8Array }[];
}

/** How finely a page is coded. */
export interface Coding {
  readonly dpi: number;
  readonly softEdges: boolean;
  /** Of JPEGs, 0 to 1. */
  readonly quality: number;
}

/**
 * From sharp to just readable. The last is the floor for what is written: at 150 dpi the finest pen, 0.3 mm, is still
 * nearly two dots wide.
 */
export const CODINGS: readonly Coding[] = [
  { dpi: 200, softEdges: true, quality: 0.8 },
  { dpi: 200, softEdges: false, quality: 0.62 },
  { dpi: 150, softEdges: false, quality: 0.5 },
  { dpi: 150, softEdges: false, quality: 0.34 },
];

/** Encodes as baseline JPEG; quality from 0 to 1. */
export type EncodeJpeg = (picture: PixelImage, quality: number) => Promise<Uint8Array>;

/** What a coded page brings to the file. */
export function bytesOf(page: CodedPage): number {
  if (page.coding !== 'layers') return page.bytes.length;
  return [...page.inks, ...page.pictures].reduce(
    (sum, { bytes }) => sum + bytes.length,
    page.background?.bytes.length ?? 0,
  );
}
