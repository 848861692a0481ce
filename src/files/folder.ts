import { FotoplanError } from '../../core/errors';

/*
 * Saving into a folder that a person chose once (File System Access). The DOM's types know folders, but neither the picker nor
 * permissions yet.
 */

interface FolderPicker {
  showDirectoryPicker(options: { mode: 'readwrite'; id: string }): Promise<FileSystemDirectoryHandle>;
}
type Allowed = FileSystemDirectoryHandle & {
  requestPermission?(options: { mode: 'readwrite' }): Promise<PermissionState>;
};

/** Where this is false, a download is the way. */
export const canChooseFolder = (): boolean => 'showDirectoryPicker' in globalThis;

/** @returns null where the person closed the picker */
export async function chooseFolder(): Promise<FileSystemDirectoryHandle | null> {
  try {
    return await (globalThis as unknown as FolderPicker).showDirectoryPicker({ mode: 'readwrite', id: 'hand-ins' });
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') return null;
    throw error;
  }
}

/**
 * Writes files beside what is there: a name that is taken gets a number.
 * @returns the names they got
 * @throws FotoplanError FOLDER_LOST where the folder is gone or may no longer be written to
 */
export async function saveInFolder(
  folder: FileSystemDirectoryHandle,
  files: readonly File[],
): Promise<readonly string[]> {
  const lost = (cause?: unknown): FotoplanError =>
    new FotoplanError(
      'FOLDER_LOST',
      `The folder “${folder.name}” is gone, or may no longer be written to. Choose a folder again.`,
      { name: folder.name },
      { cause },
    );
  try {
    // asks again where the person allowed it for a while only
    if (((await (folder as Allowed).requestPermission?.({ mode: 'readwrite' })) ?? 'granted') !== 'granted')
      throw lost();
    const names: string[] = [];
    for (const file of files) {
      const name = await freeName(folder, file.name);
      await write(folder, name, file);
      names.push(name);
    }
    return names;
  } catch (error) {
    if (error instanceof DOMException && ['NotFoundError', 'NotAllowedError'].includes(error.name)) throw lost(error);
    throw error;
  }
}

/** All of a file or nothing of it. */
async function write(folder: FileSystemDirectoryHandle, name: string, file: File): Promise<void> {
  const handle = await folder.getFileHandle(name, { create: true });
  try {
    const out = await handle.createWritable();
    await out.write(file);
    await out.close();
  } catch (error) {
    await folder.removeEntry(name).catch(() => undefined);
    throw error;
  }
}

/** hand-in.pdf, or hand-in (2).pdf where that is there. */
async function freeName(folder: FileSystemDirectoryHandle, name: string): Promise<string> {
  const [, stem = name, ending = ''] = /^(.+?)(\.[^.]*)?$/.exec(name) ?? [];
  let free = name;
  for (let n = 2; await isThere(folder, free); n++) free = `${stem} (${n})${ending}`;
  return free;
}

const isThere = (folder: FileSystemDirectoryHandle, name: string): Promise<boolean> =>
  folder.getFileHandle(name).then(
    () => true,
    (error: unknown) => {
      if (error instanceof DOMException && error.name === 'NotFoundError') return false;
      // a folder of that name
      if (error instanceof DOMException && error.name === 'TypeMismatchError') return true;
      throw error;
    },
  );
