/** A word read on a page, its box in shares of the page's width and height. */
export interface PageWord {
  readonly text: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** How sure the engine is of it, 0 to 1. */
  readonly confidence: number;
}
