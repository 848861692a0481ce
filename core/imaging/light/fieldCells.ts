type Size = { readonly width: number; readonly height: number };

/** Which cell of a field each pixel of a page lies in: rowOf[y] + columnOf[x]. */
export interface FieldCells {
  readonly columnOf: Int32Array;
  readonly rowOf: Int32Array;
}

/**
 * Says which cell of a coarser field covers a pixel of a page: the one in which the pixel's middle lies.
 * @param page - its size, px
 * @param field - the cells over it, row by row
 */
export function fieldCells(page: Size, field: Size): FieldCells {
  const along = (length: number, cells: number, stride: number): Int32Array =>
    Int32Array.from({ length }, (_, i) => stride * Math.min(cells - 1, Math.floor(((i + 0.5) * cells) / length)));
  return { columnOf: along(page.width, field.width, 1), rowOf: along(page.height, field.height, field.width) };
}
