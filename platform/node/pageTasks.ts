import type { WireError } from '../../core/errors';
import type { Finish } from '../../core/finish/light';
import type { Quad } from '../../core/geometry/quad';
import type { Point } from '../../core/geometry/point';
import type { Paper } from '../../core/pdf/paperSize';

/** What the worker threads of the command line are asked, and what they answer. */
export interface DetectTask {
  readonly task: 'detect';
  readonly file: string;
}
export interface RenderTask {
  readonly task: 'render';
  readonly file: string;
  readonly finish: Finish;
  readonly outline: 'auto' | 'whole' | Quad;
  readonly encode: { readonly as: 'png'; readonly dpi: number | null } | { readonly as: 'page'; readonly dpi: number; readonly quality: number; readonly paper: Paper };
}
export type PageTask = DetectTask | RenderTask;

export interface DetectAnswer {
  readonly width: number;
  readonly height: number;
  readonly quad: Quad | null;
  readonly boundary: readonly Point[] | null;
  readonly confidence: number;
  /** The reading direction is sure. */
  readonly upright: boolean;
  readonly ms: number;
}
export interface RenderAnswer {
  /** Press pages to be bound are JBIG2. */
  readonly coding: 'png' | 'jpeg' | 'jbig2';
  readonly bytes: Uint8Array;
  readonly width: number;
  readonly height: number;
}

/** Errors cross threads as data: structured cloning would strip their code. */
export type Answer<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: WireError };
