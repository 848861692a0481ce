import type { KeptBytes } from '../../platform/keptBytes';
import { boundName, boundPartName, isNameOfOurs, originalName } from './byteNames';
import type { LocalDatabase } from './localDatabase';

/** Moves bytes that earlier versions kept as blobs in IndexedDB to where they are kept now; one at a time, and again after a crash. */
export async function moveOldBlobs(db: LocalDatabase, bytes: KeptBytes): Promise<void> {
  for (const id of await db.getAllKeys('originals')) {
    const kept = await db.get('originals', id);
    if (kept?.blob === undefined) continue;
    await bytes.put(originalName(id), kept.blob);
    const { fileName, blob } = kept;
    await db.put('originals', { id, fileName, bytes: blob.size, from: 'here' });
  }
  for (const handInId of await db.getAllKeys('boundFiles')) {
    const kept = await db.get('boundFiles', handInId);
    if (kept?.blob === undefined) continue;
    const { blob, parts = [], ...file } = kept;
    await bytes.put(boundName(file.id), blob);
    for (const [i, part] of parts.slice(1).entries()) await bytes.put(boundPartName(file.id, i + 2), part);
    await db.put('boundFiles', { ...file, partCount: Math.max(1, parts.length) });
  }
}

/**
 * Lets go of what belongs to hand-ins that were deleted for good, and of bytes that nothing refers to, as a crash leaves them.
 * Only while nobody keeps bytes (Locks): those are written before what refers to them.
 */
export async function sweep(db: LocalDatabase, bytes: KeptBytes): Promise<void> {
  const known = new Set(await db.getAllKeys('handIns'));
  for (const id of await db.getAllKeys('boundFiles')) if (!known.has(id)) await db.delete('boundFiles', id);
  for (const id of await db.getAllKeys('histories')) if (!known.has(id)) await db.delete('histories', id);
  const originals = new Set<string>();
  const [handIns, histories, outbox, boundFiles] = await Promise.all([
    db.getAll('handIns'),
    db.getAll('histories'),
    db.getAll('outbox'),
    db.getAll('boundFiles'),
  ]);
  for (const { pages } of handIns) for (const { originalId } of pages) originals.add(originalId);
  // a retaken page can be undone
  for (const { done, undone } of histories) {
    for (const { forward, inverse } of [...done, ...undone])
      for (const change of [...forward, ...inverse]) if ('originalId' in change) originals.add(change.originalId);
  }
  for (const item of outbox) {
    if (item.kind === 'original') originals.add(item.originalId);
    if (item.kind === 'operation' && 'originalId' in item.operation) originals.add(item.operation.originalId);
  }
  const wanted = new Set([...originals].map(originalName));
  for (const { id, partCount = 1 } of boundFiles) {
    wanted.add(boundName(id));
    for (let part = 2; part <= partCount; part++) wanted.add(boundPartName(id, part));
  }
  for (const name of await bytes.list()) if (isNameOfOurs(name) && !wanted.has(name)) await bytes.delete(name);
  for (const id of await db.getAllKeys('originals')) if (!originals.has(id)) await db.delete('originals', id);
}
