import type { Bends } from '../geometry/bentOutline';
import type { Point } from '../geometry/point';
import type { Quad } from '../geometry/quad';
import type { PageLine } from './pageLine';

/** How a sheet that does not lie flat lies. */
export interface FittedSheet {
  /** Width over height of the paper. */
  readonly aspect: number;
  /** Where in the photo the place (u, v) of the page lies, both 0 to 1. */
  readonly toPhoto: (u: number, v: number) => Point;
}

/** What is known of it. */
export interface SheetEvidence {
  readonly corners: Quad;
  readonly bends: Bends;
  readonly photoWidth: number;
  readonly photoHeight: number;
  /** Focal length over the photo's long side, where the file tells it. */
  readonly focalRatio?: number | null;
  /** Lines that stand on the page, in photo pixels. */
  readonly lines?: readonly PageLine[];
}
