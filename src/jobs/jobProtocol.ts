import type { WireError } from '../../core/errors';
import type { DetectedOutline } from '../../core/imaging/detect/detectOutline';
import type { Finish } from '../../core/imaging/finish/finishSettings';
import type { FlatSize } from '../../core/imaging/flatten/flattenPage';
import type { PageLine } from '../../core/imaging/flatten/pageLine';
import type { Point } from '../../core/imaging/geometry/point';
import type { Quad } from '../../core/imaging/geometry/quad';
import type { Blemish } from '../../core/imaging/mend/findBlemishes';
import type { CodedPage, Coding } from '../../core/imaging/layers/codedPage';
import type { Mark } from '../../core/work/marks/marks';
import type { BindOptions } from '../../core/work/pdf/bindPdf';
import type { PageToRead } from '../../core/work/words/pageToRead';
import type { PdfPage } from '../../core/work/pdf/boundPage';
import type { Forbidden } from '../../core/work/pdf/openPdf';
import type { PageWord } from '../../core/work/words/pageWord';
import type { Paper } from '../../core/work/paper/paperSize';
import type { PageBox } from '../../core/imaging/quality/glare';
import type { ShotVerdict } from '../../core/imaging/quality/inspectShot';
import type { Recipe } from '../../core/work/recipe/recipe';
import type { PageKind } from '../../core/work/paper/pageKind';

/** A file new to Fotoplan: is it one that can be a page, and which? */
export interface CheckRequest {
  readonly kind: 'check';
  readonly blob: Blob;
  readonly fileName: string;
}
export interface CheckResult {
  readonly originalId: string;
  readonly isPdf: boolean;
  /** One for a photo; one each for a PDF's pages. Upright size in px. */
  readonly pages: readonly { readonly width: number; readonly height: number }[];
  /** Where the photo tells. */
  readonly takenAtMs: number | null;
  /** What the owner of a PDF forbids. */
  readonly forbids: readonly Forbidden[];
}

/** A photo as a worker needs it, whole or as its preview: it keeps small copies by key and decodes the blob only when it has none. */
export interface PhotoSource {
  readonly key: string;
  readonly fileName: string;
  readonly pdfPage: number | null;
  readonly blob: Blob;
  /** Width in px of the whole upright original: a recipe's points count in its pixels, however small the blob is. */
  readonly width: number;
}

/** Small pictures of an original, as JPEG: what boards and page views are drawn from. */
export interface SmallPictures {
  readonly thumbnail: Blob;
  readonly preview: Blob;
}
export interface PicturesRequest {
  readonly kind: 'pictures';
  readonly original: PhotoSource;
}

export interface RenderRequest {
  readonly kind: 'render';
  readonly original: PhotoSource;
  /** null shows the photo itself, upright. */
  readonly recipe: Recipe | null;
  readonly longSidePx: number;
}

/** To be read and not to be looked at: nothing is lost in encoding it. */
export interface ToReadRequest {
  readonly kind: 'toRead';
  readonly original: PhotoSource;
  readonly recipe: Recipe;
  readonly longSidePx: number;
}

/** The same while something is being changed: drawn, not encoded, so that it follows the hand. */
export interface DrawRequest extends Omit<RenderRequest, 'kind'> {
  readonly kind: 'draw';
}

/** Find the paper, and look at the shot as a careful person would; its small pictures are told on the way, as soon as it is decoded. */
export interface FindRequest {
  readonly kind: 'find';
  readonly original: PhotoSource;
  readonly finish: Finish;
  readonly pageKind: PageKind;
}
export interface FindResult {
  /** The photo's true upright size. */
  readonly width: number;
  readonly height: number;
  /** One for each page the photo shows. */
  readonly pages: readonly { readonly recipe: Recipe; readonly verdict: ShotVerdict }[];
}

/** Look once more at the shot of a page whose paper is known: another screen found it, or it came with the demo. */
export interface InspectRequest {
  readonly kind: 'inspect';
  readonly original: PhotoSource;
  readonly recipe: Recipe;
}

/** What could be the paper's outline, for the edges tool; found in the preview, which is quick. */
export interface OutlinesRequest {
  readonly kind: 'outlines';
  readonly original: PhotoSource;
}
export interface OutlinesResult {
  /** Pixels of the original, with the lines that stand on the page. */
  readonly found: (DetectedOutline & { readonly lines: readonly PageLine[] }) | null;
  /** Found and runners-up, for handles to stick to. */
  readonly targets: readonly Quad[];
}

/** How the page lies in its photo, as a grid over it. */
export interface GridRequest {
  readonly kind: 'grid';
  /** The whole upright original's size in px. */
  readonly photo: FlatSize;
  readonly recipe: Recipe;
}
/** Its lines, pixels of the original. */
export type GridResult = readonly (readonly Point[])[];

/** What a careful person would say of a page lying flat: which finish suits it, and what lies on it that nobody wrote. */
export interface LookRequest {
  readonly kind: 'look';
  readonly original: PhotoSource;
  readonly recipe: Recipe;
}
export interface LookResult {
  /** Null where the page is all but blank. */
  readonly suggested: Finish | null;
  /** Mends in pixels of the original. */
  readonly blemishes: readonly Blemish[];
  /** What lies under a lamp's reflection, in shares of the page; null where nothing does. */
  readonly glare: PageBox | null;
}

/** What tells a page from others, and its head and foot for reading. */
export interface FactsRequest {
  readonly kind: 'facts';
  readonly original: PhotoSource;
  readonly recipe: Recipe;
}
export interface FactsResult {
  readonly blank: boolean;
  readonly fingerprint: Float32Array;
  /** The strips along the top and the bottom, as JPEG. */
  readonly strips: readonly Blob[];
}

/** Several frames of one scene into one picture. */
export interface FuseRequest {
  readonly kind: 'fuse';
  readonly frames: readonly Blob[];
}
export interface FuseResult {
  readonly photo: Blob;
  /** Frames that went in. */
  readonly used: number;
}

/** Fill the reflections on a page from a second photo of it. */
export interface FillGlareRequest {
  readonly kind: 'fillGlare';
  readonly original: PhotoSource;
  readonly recipe: Recipe;
  readonly second: { readonly blob: Blob; readonly fileName: string };
}
export interface FillGlareResult {
  /** The original, filled. */
  readonly photo: Blob;
  readonly verdict: ShotVerdict;
}

/** Render a page for a file and code it. */
export interface CodeRequest {
  readonly kind: 'code';
  readonly original: PhotoSource;
  readonly recipe: Recipe;
  readonly coding: Coding;
  readonly paper: Paper;
}

/** A page for the file: coded, or a PDF's page as it is. */
export interface PageForFile {
  readonly content: CodedPage | (Omit<PdfPage, 'pdf'> & { readonly blob: Blob });
  readonly kind: PageKind;
  readonly words: readonly PageWord[];
  readonly marks: readonly Mark[];
}

export interface AssembleRequest {
  readonly kind: 'assemble';
  readonly options: Omit<BindOptions, 'font'>;
  readonly pages: readonly PageForFile[];
}
export interface AssembleResult {
  readonly pdf: Blob;
  readonly sha256: string;
}

/** A finished page at its full detail, as a picture to keep. */
export interface PictureRequest {
  readonly kind: 'picture';
  readonly original: PhotoSource;
  readonly recipe: Recipe;
  readonly format: 'jpeg' | 'png';
  /** At most; Infinity for all that the photo has. */
  readonly longSidePx: number;
}

/** Each request with what it resolves to. */
export interface Jobs {
  check: { request: CheckRequest; result: CheckResult };
  pictures: { request: PicturesRequest; result: SmallPictures };
  render: {
    request: RenderRequest;
    result: { readonly picture: Blob; readonly width: number; readonly height: number };
  };
  toRead: { request: ToReadRequest; result: PageToRead<Blob> };
  draw: { request: DrawRequest; result: ImageBitmap };
  find: { request: FindRequest; result: FindResult };
  inspect: { request: InspectRequest; result: ShotVerdict };
  outlines: { request: OutlinesRequest; result: OutlinesResult };
  grid: { request: GridRequest; result: GridResult };
  facts: { request: FactsRequest; result: FactsResult };
  look: { request: LookRequest; result: LookResult };
  fuse: { request: FuseRequest; result: FuseResult };
  fillGlare: { request: FillGlareRequest; result: FillGlareResult };
  code: { request: CodeRequest; result: CodedPage };
  assemble: { request: AssembleRequest; result: AssembleResult };
  picture: { request: PictureRequest; result: Blob };
}
export type JobRequest = Jobs[keyof Jobs]['request'];
export type JobResult = Jobs[keyof Jobs]['result'];

export interface ToWorker {
  readonly id: number;
  readonly request: JobRequest;
}
export type FromWorker =
  | { readonly id: number; readonly ok: true; readonly result: JobResult }
  | { readonly id: number; readonly ok: false; readonly error: WireError }
  /** Under way: so much of it is done, 0 to 1. */
  | { readonly id: number; readonly share: number }
  /** Made on the way to the result. */
  | { readonly id: number; readonly pictures: SmallPictures };
