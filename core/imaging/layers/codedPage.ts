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
  /** Of a page in tones. */
  readonly dpi: number;
  readonly softEdges: boolean;
  /** Of JPEGs, 0 to 1. */
  readonly quality: number;
  /** Of a page in two levels. */
  readonly twoLevelDpi: number;
}

/** All that is seen of a page. */
export const FINEST: Coding = { dpi: 200, softEdges: true, quality: 0.8, twoLevelDpi: 400 };

/**
 * The coding of a page that is to be smaller. In its first half strokes keep their soft edges and get fewer dots; in the second,
 * which saves twice as much again, their edges are hard, and have more dots for that at first. What is written is never below 150 dpi,
 * where the finest pen, 0.3 mm, is nearly two dots wide.
 * @param givenUp - of its sharpness, 0 (nothing) to 1 (all that may be)
 * @param as - how it was coded in the finest coding
 */
export function codingAt(givenUp: number, as: CodedPage['coding']): Coding {
  const [from, to] = RUNGS[as][givenUp <= 0.5 ? 0 : 1];
  const t = givenUp <= 0.5 ? 2 * givenUp : 2 * givenUp - 1;
  const between = (key: 'dpi' | 'quality' | 'twoLevelDpi'): number => from[key] + (to[key] - from[key]) * t;
  return {
    dpi: Math.round(between('dpi')),
    softEdges: from.softEdges,
    quality: between('quality'),
    twoLevelDpi: Math.round(between('twoLevelDpi')),
  };
}

/** As fine as two levels are on A4: Press makes no page larger than 3600 px. */
const TWO_LEVELS: Coding = { ...FINEST, twoLevelDpi: 308 };
const FLOOR: Coding = { dpi: 150, softEdges: false, quality: 0.34, twoLevelDpi: 150 };
const HALFWAY_PICTURE: Coding = { ...FINEST, dpi: 170, quality: 0.55 };
const HALFWAY_TWO_LEVELS: Coding = { ...FINEST, twoLevelDpi: 220 };

/** Where each half of the way begins and ends. */
const RUNGS: Readonly<Record<CodedPage['coding'], readonly [readonly [Coding, Coding], readonly [Coding, Coding]]>> = {
  layers: [
    [FINEST, { ...FINEST, dpi: 150, quality: 0.62 }],
    [{ ...FINEST, dpi: 250, softEdges: false, quality: 0.62 }, FLOOR],
  ],
  jpeg: [
    [FINEST, HALFWAY_PICTURE],
    [HALFWAY_PICTURE, FLOOR],
  ],
  jbig2: [
    [TWO_LEVELS, HALFWAY_TWO_LEVELS],
    [HALFWAY_TWO_LEVELS, FLOOR],
  ],
};

/** The platform's own coder of JPEGs. */
export interface JpegCodec {
  /** Encodes as baseline JPEG; quality from 0 to 1. */
  readonly encode: (picture: PixelImage, quality: number) => Promise<Uint8Array>;
  /** Decodes what encode made: grey or RGB. */
  readonly decode: (jpeg: Uint8Array) => Promise<PixelImage>;
}

/** What a coded page brings to the file. */
export function bytesOf(page: CodedPage): number {
  if (page.coding !== 'layers') return page.bytes.length;
  return [...page.inks, ...page.pictures].reduce(
    (sum, { bytes }) => sum + bytes.length,
    page.background?.bytes.length ?? 0,
  );
}
