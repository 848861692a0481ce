import { bytesToHex } from '@noble/hashes/utils';
import { sha256 } from '@noble/hashes/sha2';
import { originalPath } from '../../../core/work/bundle/bundle';
import { FotoplanError } from '../../../core/errors';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import type { RunningEngine } from '../../engine/createEngine';

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
  const { unpackBundle } = await import('../../../core/work/bundle/unpackBundle');
  const { checkPhotoFile } = await import('../../../core/work/photo/checkPhotoFile');
  const pdfs = new Map<string, Blob>();
  const writes: Promise<unknown>[] = [];
  const { handIns } = await unpackBundle(zip, (path, bytes, fileName) => {
    const whole = bytes as Uint8Array<ArrayBuffer>;
    if (fileName === null) return void pdfs.set(path, new Blob([whole], { type: 'application/pdf' }));
    const id = bytesToHex(sha256(bytes));
    if (originalPath(id) !== path)
      throw new FotoplanError(
        'BUNDLE_INVALID',
        `The photo “${fileName}” in this zip is damaged. Export the hand-in once more.`,
      );
    // what the server would refuse must not wait here to be sent
    checkPhotoFile(bytes, fileName);
    writes.push(originals.keep({ id, fileName, blob: new Blob([whole]) }));
  });
  await Promise.all(writes);
  const ids: string[] = [];
  for (const { file, ...handIn } of handIns) {
    const own: HandIn = { ...handIn, id: newId(), pages: handIn.pages.map((page) => ({ ...page, id: newId() })) };
    const blob = file === null ? undefined : pdfs.get(file.path);
    await dispatch({ kind: 'adoptHandIn', handInId: own.id, handIn: own });
    if (file !== null && blob !== undefined)
      await boundFiles.keep({ ...file, handInId: own.id, id: newId(), blob, parts: [] });
    ids.push(own.id);
  }
  return ids;
}
