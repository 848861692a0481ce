import { withWorkspace, type FloatSlot, type IntSlot, type Workspace } from '../kernels/workspace';

/** Where the samples of a longer line are read in a shorter one: between `lefts` and the sample after it, by `shares`. */
export interface SamplePositions {
  readonly lefts: Int32Array<ArrayBuffer>;
  readonly shares: Float32Array<ArrayBuffer>;
}

/** Sample middles lie at halves, and beyond the border the last sample repeats. */
export function samplePositions(length: number, toLength: number): SamplePositions {
  const lefts = new Int32Array(toLength);
  const shares = new Float32Array(toLength);
  for (let k = 0; k < toLength; k++) {
    const at = Math.min(length - 1, Math.max(0, ((k + 0.5) / toLength) * length - 0.5));
    lefts[k] = Math.floor(at);
    shares[k] = at - lefts[k]!;
  }
  return { lefts, shares };
}

/** A plane's size, px. */
interface Size {
  readonly width: number;
  readonly height: number;
}

/** samplePositions, for the kernels. */
export function samplePositionSlots(
  ws: Workspace,
  length: number,
  toLength: number,
): { readonly lefts: IntSlot; readonly shares: FloatSlot } {
  const { lefts, shares } = samplePositions(length, toLength);
  return { lefts: ws.of(lefts), shares: ws.of(shares) };
}

/**
 * Enlarges a plane bilinearly, columns and rows apart; sample middles lie at halves, and beyond the
 * border the last repeats.
 * @param plane - as many samples as `from` has
 */
export const enlargePlane = (plane: Float32Array, from: Size, to: Size): Float32Array =>
  withWorkspace(enlarge, plane, from, to);

function enlarge(
  ws: Workspace,
  plane: Float32Array,
  { width, height }: Size,
  { width: toWidth, height: toHeight }: Size,
): Float32Array {
  const samples = ws.of(plane);
  const columns = samplePositionSlots(ws, width, toWidth);
  const line = ws.f32(width + 1);
  const out = ws.f32(toWidth * toHeight);
  const rows = samplePositions(height, toHeight);
  for (let y = 0; y < toHeight; y++) {
    const above = rows.lefts[y]!;
    ws.kernels.lerpRows(
      samples.addressOf(width * above),
      samples.addressOf(width * Math.min(height - 1, above + 1)),
      rows.shares[y]!,
      width,
      line.at,
    );
    ws.kernels.resampleRow(
      line.at,
      columns.lefts.at,
      columns.shares.at,
      toWidth,
      out.addressOf(y * toWidth),
      Float32Array.BYTES_PER_ELEMENT,
    );
  }
  return out.copy();
}
