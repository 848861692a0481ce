import { isHidden, isTakenByName } from '../../core/work/photo/takenByName';
import type { LeftOut } from '../jobs/intake';

/** Files let go over the app or pasted into it, those in folders with their path as their name. */
export interface Dropped {
  readonly files: readonly File[];
  readonly leftOut: readonly LeftOut[];
}

/**
 * What was dropped, once the folders among it have been read, however deep. Must be called while the drop is told of: later the
 * browser no longer gives it out. Files dropped by themselves are all given; in a folder what is no photo or PDF by name is left out.
 */
export async function droppedFiles(transfer: DataTransfer): Promise<Dropped> {
  const plain = Array.from(transfer.files);
  const entries = Array.from(transfer.items ?? [], (item) => item.webkitGetAsEntry?.() ?? null);
  if (!entries.some((entry) => entry?.isDirectory === true)) return { files: plain, leftOut: [] };
  const files: File[] = [];
  const leftOut: LeftOut[] = [];
  for (const entry of entries) {
    if (entry === null) continue;
    if (!entry.isDirectory) {
      files.push(await fileOf(entry as FileSystemFileEntry, entry.name));
      continue;
    }
    const all = (await filesBelow(entry as FileSystemDirectoryEntry, entry.name)).filter(({ path }) => !isHidden(path));
    all.sort((a, b) => a.path.localeCompare(b.path, 'en', { numeric: true }));
    const taken = all.filter(({ path }) => isTakenByName(path));
    files.push(...(await Promise.all(taken.map(({ file, path }) => fileOf(file, path)))));
    const others = all.filter(({ path }) => !isTakenByName(path)).map(({ path }) => path);
    // an empty folder is told of as well: otherwise nothing would be seen to happen
    if (others.length > 0 || taken.length === 0) leftOut.push({ from: entry.name, names: others });
  }
  return { files, leftOut };
}

/** One that can no longer be read (permission taken back, card pulled out) stands as a file whose bytes are refused. */
const fileOf = (entry: FileSystemFileEntry, path: string): Promise<File> =>
  new Promise((resolve) =>
    entry.file(
      (file) => resolve(new File([file], path, { type: file.type, lastModified: file.lastModified })),
      () => {
        const gone = new File([], path);
        Object.defineProperty(gone, 'arrayBuffer', { value: () => Promise.reject(new Error('it cannot be read')) });
        resolve(gone);
      },
    ),
  );

interface Found {
  readonly path: string;
  readonly file: FileSystemFileEntry;
}

async function filesBelow(folder: FileSystemDirectoryEntry, path: string): Promise<Found[]> {
  const reader = folder.createReader();
  const found: Found[] = [];
  for (;;) {
    // a browser gives a hundred at a time
    const some = await new Promise<FileSystemEntry[]>((resolve) => reader.readEntries(resolve, () => resolve([])));
    if (some.length === 0) return found;
    for (const entry of some) {
      const below = `${path}/${entry.name}`;
      if (entry.isDirectory) found.push(...(await filesBelow(entry as FileSystemDirectoryEntry, below)));
      else found.push({ path: below, file: entry as FileSystemFileEntry });
    }
  }
}
