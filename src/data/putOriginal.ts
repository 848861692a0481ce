import type { KeptBytes } from '../../platform/keptBytes';
import { originalName } from './byteNames';

/**
 * Keeps a photo's bytes under its hash. What lies there already is right: writing it again would make it unreadable for whoever reads it
 * just now (two shots may be the same, and a photo may be added twice).
 * @throws FotoplanError STORAGE_… with the true cause
 */
export async function putOriginal(bytes: KeptBytes, originalId: string, blob: Blob): Promise<void> {
  const name = originalName(originalId);
  if ((await bytes.get(name))?.size !== blob.size) await bytes.put(name, blob);
}
