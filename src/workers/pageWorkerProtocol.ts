import type { WireError } from '../../core/errors';
import type { Finish } from '../../core/finish/applyFinish';
import type { Paper } from '../../core/pdf/paperSize';
import type { Recipe } from '../../core/recipe/recipe';

/** A photo new to Fotoplan: check it, hash it, find its paper. */
export interface IntakeRequest {
  readonly kind: 'intake';
  readonly blob: Blob;
  readonly fileName: string;
  readonly finish: Finish;
}
export interface IntakeResult {
  readonly originalId: string;
  readonly width: number;
  readonly height: number;
  readonly recipe: Recipe;
}

/** An original as the worker needs it: it keeps small copies by id and decodes the blob only when it has none. */
export interface OriginalSource {
  readonly originalId: string;
  readonly fileName: string;
  readonly blob: Blob;
}

export interface RenderRequest {
  readonly kind: 'render';
  readonly original: OriginalSource;
  /** null shows the photo itself, upright. */
  readonly recipe: Recipe | null;
  readonly longSidePx: number;
}

export interface FindRequest {
  readonly kind: 'find';
  readonly original: OriginalSource;
  readonly finish: Finish;
}

export interface BindRequest {
  readonly kind: 'bind';
  readonly title: string;
  readonly paper: Paper;
  readonly nowMs: number;
  readonly pages: readonly { readonly original: OriginalSource; readonly recipe: Recipe }[];
}
export interface BindResult {
  readonly pdf: Blob;
  readonly sha256: string;
  /** Bytes of each page's picture, in order. */
  readonly pageBytes: readonly number[];
}

/** Each request with what it resolves to. */
export interface PageWork {
  intake: { request: IntakeRequest; result: IntakeResult };
  render: { request: RenderRequest; result: { readonly picture: Blob; readonly width: number; readonly height: number } };
  find: { request: FindRequest; result: Recipe };
  bind: { request: BindRequest; result: BindResult };
}
export type PageRequest = PageWork[keyof PageWork]['request'];
export type PageResult = PageWork[keyof PageWork]['result'];

export type ToWorker = { readonly id: number; readonly request: PageRequest } | { readonly id: number; readonly cancel: true };
export type FromWorker =
  | { readonly id: number; readonly progress: number }
  | { readonly id: number; readonly ok: true; readonly result: PageResult }
  | { readonly id: number; readonly ok: false; readonly error: WireError };
