import { extremeFilter } from '../raster/morphology';
import { boxBlur } from '../raster/boxBlur';

/*
 * Printed rules: thin, faint, straight along rows or columns for longer than any stroke of writing. An opening with a
 * long thin line keeps only them, a little thickened across first so that a rule that is not quite level is still one;
 * what it keeps is taken away wherever it is no darker than a rule is.
 */

/** Length of the line of the opening, as a share of the page's long side: 14 mm of A4. */
const RULE_LENGTH = 0.048;
/** No rule is darker than this share of the darkest ink, on the scale of a byte. */
const DARKEST_RULE = 90;
const KEPT = 0.12;

/** Takes ruled lines and squares out of a plane of ink depth. */
export function fadeRuledLines(depth: Uint8ClampedArray<ArrayBuffer>, width: number, height: number): Uint8ClampedArray<ArrayBuffer> {
  const half = Math.max(4, Math.round((RULE_LENGTH / 2) * Math.max(width, height)));
  const slack = Math.max(1, Math.round(Math.max(width, height) / 1800));
  const plane = Float32Array.from(depth);
  const out = depth.slice();
  for (const across of [true, false]) {
    // grain would break the line: along it, means are as good
    const calm = along(plane, width, height, Math.max(1, half >> 3), across, 'mean');
    const thick = along(calm, width, height, slack, !across, 'largest');
    const opened = along(along(thick, width, height, half, across, 'smallest'), width, height, half, across, 'largest');
    for (let i = 0; i < out.length; i++) {
      const rule = opened[i]!;
      if (rule < 2 || rule > DARKEST_RULE) continue;
      // ink that crosses a rule is much darker than it and stays
      const own = plane[i]!;
      if (own <= rule * 1.35 + 4) out[i] = Math.min(out[i]!, own * KEPT);
    }
  }
  return out;
}

function along(plane: Float32Array, width: number, height: number, radius: number, rows: boolean, what: 'mean' | 'largest' | 'smallest'): Float32Array {
  if (what === 'mean') return boxBlur(plane, width, height, radius, 1, rows ? 'rows' : 'columns');
  return extremeFilter(plane, width, height, radius, what, rows ? 'rows' : 'columns');
}
