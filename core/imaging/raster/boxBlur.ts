import { withWorkspace, type FloatSlot, type Workspace } from '../kernels/workspace';

/** Room for the lines that a blur works in: four samples side by side, sixteen bytes for each place and radius. */
export const lineSlot = (ws: Workspace, width: number, height: number, radius: number): FloatSlot =>
  ws.f32(16 * (Math.max(width, height) + 2 * radius + 2));

/**
 * Blurs with box filters (means of a square, rows then columns); beyond the border the last sample repeats.
 * Method: running sums, so that the time does not grow with the radius.
 * @param plane - width × height samples, left as they are
 * @param radius - in px: a square of 2 × radius + 1
 * @param passes - three come close to a Gaussian
 * @param along - rows or columns alone make it a line
 */
export function boxBlur(
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
  passes: number,
  along: 'both' | 'rows' | 'columns' = 'both',
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
