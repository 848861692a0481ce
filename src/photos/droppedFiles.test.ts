import { droppedFiles } from './droppedFiles';

const fileNamed = (name: string): FileSystemFileEntry =>
  ({ name, isDirectory: false, file: (take: FileCallback) => take(new File([name], name)) }) as FileSystemFileEntry;
const gone = (name: string): FileSystemFileEntry =>
  ({
    name,
    isDirectory: false,
    file: (_take: FileCallback, fail?: ErrorCallback) => fail?.(new DOMException('', 'NotFoundError')),
  }) as FileSystemFileEntry;
/** A folder that a browser tells of two at a time. */
const folderNamed = (name: string, inside: readonly FileSystemEntry[]): FileSystemDirectoryEntry =>
  ({
    name,
    isDirectory: true,
    createReader: () => {
      const left = [...inside];
      return { readEntries: (take: FileSystemEntriesCallback) => take(left.splice(0, 2)) };
    },
  }) as unknown as FileSystemDirectoryEntry;
const drop = (...entries: readonly FileSystemEntry[]) =>
  droppedFiles({
    files: [],
    items: entries.map((entry) => ({ webkitGetAsEntry: () => entry })),
  } as unknown as DataTransfer);

it('reads folders to their end and however deep, in the order of names and numbers', async () => {
  const { files, leftOut } = await drop(
    fileNamed('cover.jpg'),
    folderNamed('week', [
      folderNamed('day 10', [fileNamed('b.png'), fileNamed('a.pdf'), fileNamed('notes.txt')]),
      folderNamed('day 9', [folderNamed('more', [fileNamed('10.jpg'), fileNamed('9.jpg'), fileNamed('.hidden.jpg')])]),
      fileNamed('Thumbs.db'),
    ]),
  );
  expect(files.map(({ name }) => name)).toEqual([
    'cover.jpg',
    'week/day 9/more/9.jpg',
    'week/day 9/more/10.jpg',
    'week/day 10/a.pdf',
    'week/day 10/b.png',
  ]);
  expect(leftOut).toEqual([{ from: 'week', names: ['week/day 10/notes.txt'] }]);
});

it('tells of a folder with nothing in it, and gives a file that is gone as one that cannot be read', async () => {
  const { files, leftOut } = await drop(folderNamed('empty', []), folderNamed('card', [gone('plate.jpg')]));
  expect(leftOut).toEqual([{ from: 'empty', names: [] }]);
  expect(files.map(({ name }) => name)).toEqual(['card/plate.jpg']);
  await expect(files[0]!.arrayBuffer()).rejects.toThrow('cannot be read');
});
