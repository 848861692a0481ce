import type { CodedPage, Coding } from '../../core/imaging/layers/codedPage';
import type { WireError } from '../../core/errors';
import type { Finish } from '../../core/imaging/finish/finishSettings';
import type { Quad } from '../../core/imaging/geometry/quad';
import type { Point } from '../../core/imaging/geometry/point';
import type { MissingPart } from '../../core/imaging/quality/missingPart';
import type { ShotVerdict } from '../../core/imaging/quality/inspectShot';
import type { Paper } from '../../core/work/paper/paperSize';
import type { Recipe } from '../../core/work/recipe/recipe';
import type { PageToRead } from '../../core/work/words/pageToRead';

/** What the worker threads of the command line are asked, and what they answer. */
export interface DetectTask {
  readonly task: 'detect';
  readonly file: string;
}
export interface RenderTask {
  readonly task: 'render';
  readonly file: string;
  readonly finish: Finish;
  readonly outline: 'auto' | 'whole' | Quad | Recipe;
  /** Clockwise, on top of what is found; a recipe has its own. */
  readonly quarterTurns: number;
  readonly encode: { readonly as: 'png'; readonly dpi: number | null } | CodedPageWanted;
}
/** A page for a file. */
export interface CodedPageWanted {
  readonly as: 'coded';
  readonly coding: Coding;
  readonly paper: Paper;
  /** Dots an inch at most, whatever the coding has; null for no limit. */
  readonly dpi: number | null;
  /** A picture of it is wanted too, to be read. */
  readonly toRead: boolean;
}
export interface InspectTask {
  readonly task: 'inspect';
  readonly file: string;
}
export type PageTask = DetectTask | RenderTask | InspectTask;

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
export type RenderAnswer = { /** What the photo's file no longer has. */ readonly missing: MissingPart | null } & (
  | { readonly as: 'png'; readonly bytes: Uint8Array }
  | {
      readonly as: 'coded';
      readonly page: CodedPage;
      readonly recipe: Recipe;
      readonly toRead: PageToRead<Uint8Array> | null;
    }
);

/** What the ready check sees on a page. */
export interface InspectAnswer {
  readonly width: number;
  readonly height: number;
  readonly confidence: number;
  readonly upright: boolean;
  /** Degrees the camera was tilted against the page. */
  readonly tilt: number | null;
  readonly verdict: ShotVerdict;
}

/** Errors cross threads as data: structured cloning would strip their code. */
export type Answer<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: WireError };
