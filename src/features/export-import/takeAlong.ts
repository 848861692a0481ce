import { BUNDLE_INDEX, bundleOf, originalPath, withFiles } from '../../../core/work/bundle/bundle';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { RunningEngine } from '../../engine/createEngine';

/**
 * Hand-ins as one zip: originals as they came, recipes with their marks as JSON, bound PDFs (docs/bundle.md). Made piece by
 * piece, so that no more than one photo is in memory.
 */
export async function takeAlong(
  { originals: kept, boundFiles }: RunningEngine,
  handIns: readonly HandIn[],
  onProgress: (done: number, of: number) => void,
): Promise<Blob> {
  const { Zip, ZipPassThrough } = await import('fflate');
  const pieces: BlobPart[] = [];
  let problem: Error | null = null;
  const zip = new Zip((error, data) => {
    problem ??= error;
    pieces.push(new Blob([data]));
  });
  const add = (name: string, bytes: Uint8Array): void => {
    // photos and PDFs are compressed already
    const entry = new ZipPassThrough(name);
    zip.add(entry);
    entry.push(bytes, true);
  };
  const files = await Promise.all(handIns.map(({ id }) => boundFiles.local(id)));
  const bundled = withFiles(handIns, files);
  add(BUNDLE_INDEX, new TextEncoder().encode(JSON.stringify(bundleOf(bundled), null, 2)));
  const originals = new Map(handIns.flatMap(({ pages }) => pages.map((page) => [page.originalId, page] as const)));
  let done = 0;
  for (const page of originals.values()) {
    onProgress(done++, originals.size);
    const blob = await kept.load(page.originalId, page.fileName);
    add(originalPath(page.originalId), new Uint8Array(await blob.arrayBuffer()));
  }
  for (const [n, { file }] of bundled.entries())
    if (file !== null) add(file.path, new Uint8Array(await files[n]!.blob.arrayBuffer()));
  zip.end();
  if (problem !== null) throw problem as Error;
  onProgress(originals.size, originals.size);
  return new Blob(pieces, { type: 'application/zip' });
}
