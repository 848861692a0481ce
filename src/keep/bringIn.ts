import { bytesToHex } from '@noble/hashes/utils';
import { sha256 } from '@noble/hashes/sha2';
import { BUNDLE_INDEX, originalPath, readBundle, type Bundle } from '../../core/bundle/bundle';
import { FotoplanError } from '../../core/errors';
import type { HandIn } from '../../core/handIn/handIn';
import { PHOTO_LIMITS } from '../../core/photo/checkPhotoFile';
import type { RunningEngine } from '../engine/createEngine';

const MOST_FILE_BYTES = 200_000_000;

/**
 * Takes hand-ins in that were taken along: as new ones, beside what is here. Every photo must be what its name says.
 * @returns their ids
 * @throws FotoplanError BUNDLE_INVALID; what is here stays as it is
 */
export const bringIn = (engine: RunningEngine, zip: File): Promise<readonly string[]> =>
  engine.keeping(() => takeIn(engine, zip));

async function takeIn(
  { originals, boundFiles, dispatch, newId }: RunningEngine,
  zip: File,
): Promise<readonly string[]> {
  const { Unzip, UnzipInflate } = await import('fflate');
  const { checkPhotoFile } = await import('../../core/photo/checkPhotoFile');
  let bundle: Bundle | null = null;
  const wanted = new Map<string, string>();
  const pdfs = new Map<string, Blob>();
  const writes: Promise<unknown>[] = [];
  let problem: unknown = null;
  const invalid = (says: string): FotoplanError => new FotoplanError('BUNDLE_INVALID', says);
  const take = (name: string, bytes: Uint8Array): void => {
    if (name === BUNDLE_INDEX) {
      bundle = readBundle(new TextDecoder().decode(bytes));
      for (const { pages } of bundle.handIns)
        for (const { originalId, fileName } of pages) wanted.set(originalPath(originalId), fileName);
      return;
    }
    const fileName = wanted.get(name);
    if (fileName === undefined)
      return void pdfs.set(name, new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/pdf' }));
    const id = bytesToHex(sha256(bytes));
    if (originalPath(id) !== name)
      throw invalid(`The photo “${fileName}” in this zip is damaged. Take the hand-in along once more.`);
    // what the server would refuse must not wait here to be sent
    checkPhotoFile(bytes, fileName);
    writes.push(originals.keep({ id, fileName, blob: new Blob([bytes as Uint8Array<ArrayBuffer>]) }));
    wanted.delete(name);
  };
  const unzip = new Unzip((file) => {
    const parts: Uint8Array[] = [];
    let total = 0;
    file.ondata = (error, data, final) => {
      if (problem !== null) return;
      try {
        if (error !== null) throw invalid('This zip is damaged. Copy it here again.');
        total += data.length;
        // what unpacks to more than a photo or a file can have is no bundle
        if (total > (file.name.startsWith('originals/') ? PHOTO_LIMITS.bytes : MOST_FILE_BYTES))
          throw invalid('This zip holds something larger than any photo. It was not made by Fotoplan.');
        parts.push(data);
        if (final) take(file.name, joined(parts, total));
      } catch (thrown) {
        problem = thrown;
      }
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    const reader = zip.stream().getReader();
    for (let { done, value } = await reader.read(); !done && problem === null; { done, value } = await reader.read())
      unzip.push(value!);
    if (problem === null) unzip.push(new Uint8Array(0), true);
  } catch (cause) {
    throw new FotoplanError(
      'BUNDLE_INVALID',
      'This is not a zip that can be opened. Choose the one that was taken along.',
      {},
      { cause },
    );
  }
  if (problem !== null) throw problem instanceof Error ? problem : new Error('unzip failed');
  if (bundle === null) throw invalid('This zip was not made by taking hand-ins along. Choose one that was.');
  if (wanted.size > 0)
    throw invalid(`The photo “${[...wanted.values()][0]}” is missing in this zip. Take the hand-in along once more.`);
  await Promise.all(writes);
  const ids: string[] = [];
  for (const { file, ...handIn } of (bundle as Bundle).handIns) {
    const own: HandIn = { ...handIn, id: newId(), pages: handIn.pages.map((page) => ({ ...page, id: newId() })) };
    const blob = file === null ? undefined : pdfs.get(file.path);
    await dispatch({ kind: 'adoptHandIn', handInId: own.id, handIn: own });
    if (file !== null && blob !== undefined)
      await boundFiles.keep({ ...file, handInId: own.id, id: newId(), blob, parts: [] });
    ids.push(own.id);
  }
  return ids;
}

function joined(parts: readonly Uint8Array[], total: number): Uint8Array {
  const whole = new Uint8Array(total);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
