/// <reference lib="dom.asynciterable" />
import type { KeptBytes } from '../../keptBytes';
import { missing, storageError } from './storageError';

const FOLDER = 'fotoplan';

/**
 * Bytes as files in the origin's private file system: read from disk as they are used, never whole in memory.
 * A file becomes visible whole or not at all; one of no bytes is what a crash left behind.
 * @throws what the browser throws where it has no such file system
 */
export async function openFileBytes(): Promise<KeptBytes> {
  const storage = (globalThis.navigator as Navigator | undefined)?.storage;
  if (typeof storage?.getDirectory !== 'function') throw missing('The private file system');
  const root = await storage.getDirectory();
  const folder = await root.getDirectoryHandle(FOLDER, { create: true });
  const remove = (name: string): Promise<void> => folder.removeEntry(name).catch(() => undefined); // it was not there
  const get = async (name: string): Promise<Blob | null> => {
    const file = await folder.getFileHandle(name).then(
      (handle) => handle.getFile(),
      () => null,
    );
    return file === null || file.size === 0 ? null : file;
  };
  return {
    get,
    async put(name, bytes) {
      try {
        const handle = await folder.getFileHandle(name, { create: true });
        const stream = await handle.createWritable();
        try {
          await stream.write(bytes);
          await stream.close();
        } catch (error) {
          await stream.abort().catch(() => undefined);
          throw error;
        }
      } catch (error) {
        // what was whole before is whole still
        if ((await get(name)) === null) await remove(name);
        throw storageError(error);
      }
    },
    delete: remove,
    async list() {
      const names: string[] = [];
      for await (const [name] of folder.entries()) names.push(name);
      return names;
    },
    clear: () => root.removeEntry(FOLDER, { recursive: true }).catch(() => undefined),
  };
}
