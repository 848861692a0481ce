import { withWorkspace, type FloatSlot, type Workspace } from '../kernels/workspace';

/** Room for the lines that a blur works in: four samples side by side, sixteen bytes for each place and radius. */
export const lineSlot = (ws: Workspace, width: number, height: number, radius: number): FloatSlot =>
  ws.f32(16 * (Math.max(width, height) + 2 * radius + 2));

export interface BoxBlur {
  /** In px: of a square of 2 × radius + 1. */
  readonly radius: number;
  /** Three come close to a Gaussian; one by default. */
  readonly passes?: number;
  /** Rows or columns alone make the square a line. */
  readonly along?: 'both' | 'rows' | 'columns';
}

/**
 * Blurs with box filters (means of a square, rows then columns); beyond the border the last sample repeats.
 * Method: running sums, so that the time does not grow with the radius.
 * @param plane - width × height samples, left as they are
 */
export function boxBlur(
  plane: Float32Array,
  width: number,
  height: number,
  { radius, passes = 1, along = 'both' }: BoxBlur,
): Float32Array {
  return withWorkspace((ws) => {
    const samples = ws.of(plane);
    const lines = lineSlot(ws, width, height, radius);
    for (let i = 0; i < passes; i++) {
      if (along !== 'columns') ws.kernels.blurRows(samples.at, width, height, radius, lines.at);
      if (along !== 'rows') ws.kernels.blurColumns(samples.at, width, height, radius, lines.at);
    }
    return samples.copy();
  });
}
