import { boundPages, type HandIn } from '../../../core/work/hand-in/handIn';
import type { RunningEngine } from '../../engine/createEngine';

/**
 * All pages as numbered pictures, in one zip. They are compressed already, so the zip only holds them.
 * @param longSidePx - of each, at most; Infinity for their full detail
 */
export async function picturesZip(
  { scheduler, small }: RunningEngine,
  handIn: HandIn,
  format: 'jpeg' | 'png',
  longSidePx: number,
  onPage: (page: number, of: number) => void,
): Promise<Blob> {
  const { zipSync } = await import('fflate');
  const pages = boundPages(handIn);
  const digits = Math.max(2, String(pages.length).length);
  const files: Record<string, Uint8Array> = {};
  for (const [i, page] of pages.entries()) {
    onPage(i + 1, pages.length);
    const picture = await scheduler.run(
      { kind: 'picture', original: await small.whole(page), recipe: page.recipe, format, longSidePx },
      { priority: 'soon' },
    );
    files[`page-${String(i + 1).padStart(digits, '0')}.${format === 'jpeg' ? 'jpg' : 'png'}`] = new Uint8Array(
      await picture.arrayBuffer(),
    );
  }
  return new Blob([zipSync(files, { level: 0 })], { type: 'application/zip' });
}
