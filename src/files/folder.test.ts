import { saveInFolder } from './folder';

/** A folder as a browser gives it out, in memory. */
class Folder {
  readonly kept = new Map<string, File>();
  permission: PermissionState = 'granted';
  isGone = false;
  isFull = false;
  constructor(readonly name: string) {}
  requestPermission(): Promise<PermissionState> {
    return Promise.resolve(this.permission);
  }
  getFileHandle(name: string, { create = false } = {}) {
    if (this.isGone || (!create && !this.kept.has(name))) return Promise.reject(new DOMException('', 'NotFoundError'));
    // a file is there, empty, as soon as its handle is
    if (create) this.kept.set(name, new File([], name));
    const write = (file: File): void => {
      if (this.isFull) throw new DOMException('', 'QuotaExceededError');
      this.kept.set(name, file);
    };
    return Promise.resolve({ createWritable: () => Promise.resolve({ write, close: () => Promise.resolve() }) });
  }
  removeEntry(name: string): Promise<void> {
    this.kept.delete(name);
    return Promise.resolve();
  }
}
const handleOf = (folder: Folder): FileSystemDirectoryHandle => folder as unknown as FileSystemDirectoryHandle;
const pdf = (name: string): File => new File(['%PDF'], name);

it('saves beside what is there and replaces nothing', async () => {
  const folder = new Folder('Coursework');
  const first = pdf('set 4.pdf');
  expect(await saveInFolder(handleOf(folder), [first])).toEqual(['set 4.pdf']);
  expect(await saveInFolder(handleOf(folder), [pdf('set 4.pdf'), pdf('set 4.pdf'), pdf('no ending')])).toEqual([
    'set 4 (2).pdf',
    'set 4 (3).pdf',
    'no ending',
  ]);
  expect(folder.kept.get('set 4.pdf')).toBe(first);
});

it('says that a folder may no longer be written to, or is gone', async () => {
  const folder = new Folder('Coursework');
  folder.permission = 'denied';
  await expect(saveInFolder(handleOf(folder), [pdf('a.pdf')])).rejects.toMatchObject({ code: 'FOLDER_LOST' });
  folder.permission = 'granted';
  folder.isGone = true;
  await expect(saveInFolder(handleOf(folder), [pdf('a.pdf')])).rejects.toMatchObject({ code: 'FOLDER_LOST' });
});

it('leaves no empty file where there is no room', async () => {
  const folder = new Folder('Coursework');
  folder.isFull = true;
  await expect(saveInFolder(handleOf(folder), [pdf('a.pdf')])).rejects.toMatchObject({ name: 'QuotaExceededError' });
  expect(folder.kept.size).toBe(0);
});
