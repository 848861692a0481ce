import type { PageLight } from './pageLight';

/*
 * A preview is the file's page, smaller. A copy with fewer pixels has lost what finishes work on: thin strokes are paler in it
 * and their edges wider, so the same settings leave them pale, or make them thick. Here finishes learn how much smaller than
 * the file's page a copy is, and read the settings that make it look as the file's page does once that is made as small.
 */

/** The long side of a page in a file, px: A4 at 200 dpi. */
const FILE_LONG_SIDE_PX = 2339;

/** A copy's size over that of the page in a file, where the photo has the detail for it; 1 for the file and all that is larger. */
export function sizeBesideFile({ page: { width, height }, detail }: Pick<PageLight, 'page' | 'detail'>): number {
  const longSide = Math.max(width, height);
  return Math.min(1, longSide / Math.min(FILE_LONG_SIDE_PX, longSide / detail));
}

/**
 * Reads a table of settings between its rows.
 * @param rows - of a ratio and its settings, ratios rising; beyond the ends the first and the last row go on
 */
export function settingsAt(
  rows: readonly { readonly ratio: number; readonly settings: readonly number[] }[],
  ratio: number,
): number[] {
  const next = rows.findIndex((row) => row.ratio >= ratio);
  if (next === 0) return [...rows[0]!.settings];
  if (next === -1) return [...rows.at(-1)!.settings];
  const [a, b] = [rows[next - 1]!, rows[next]!];
  const t = (ratio - a.ratio) / (b.ratio - a.ratio);
  return a.settings.map((value, i) => value + (b.settings[i]! - value) * t);
}
