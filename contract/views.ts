import type { HandIn } from '../core/handIn/handIn';

/** What GET /api/hand-ins answers. */
export interface HandInsView {
  readonly handIns: readonly HandIn[];
}

/** A bound file as the server keeps it. */
export interface BoundFileView {
  readonly id: string;
  readonly name: string;
  readonly pages: number;
  readonly bytes: number;
  readonly sha256: string;
  readonly boundAtMs: number;
}

/** Photos that ship with the demo: to practise with, or laid on the practice table. */
export interface PracticePhotosView {
  readonly photos: readonly { readonly name: string; readonly url: string }[];
}
