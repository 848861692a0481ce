/** A part of the page, in px of it. */
export interface PixelBox {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** Calls back for every row of a box of a picture, with the indices it begins and ends at. */
export function forEachRow(
  { x, y, width, height }: PixelBox,
  stride: number,
  row: (from: number, to: number) => void,
): void {
  for (let v = y; v < y + height; v++) row(v * stride + x, v * stride + x + width);
}
