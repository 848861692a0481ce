import { mkdtempSync, rmSync } from 'node:fs';
import { open, readdir, readFile, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { FotoplanError } from '../core/errors';
import { isTiff, splitTiff } from '../core/work/photo/splitTiff';
import { PHOTO_ENDINGS } from '../core/work/photo/takenByName';
import type { Given } from './readArguments';
import { UsageError } from './usageError';

/** A file to work on. */
export interface Input {
  readonly file: string;
  /** As it was named: - for standard input; with the number of its page where it is one of several. */
  readonly shownAs: string;
}

export interface Inputs {
  /** In the order given; a folder that cannot be used stands as its error. */
  readonly inputs: readonly (Input | { readonly shownAs: string; readonly error: FotoplanError })[];
  /** Takes away what was kept of standard input and of TIFFs. */
  readonly clear: () => void;
}

const naturally = new Intl.Collator('en', { numeric: true });

async function readAllOf(stream: NodeJS.ReadableStream): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(Buffer.from(part as Buffer));
  return Buffer.concat(parts);
}

/** Names of files, one a line, or with zero bytes between as find -print0 has them. */
async function namesFrom(list: string): Promise<string[]> {
  const bytes =
    list === '-'
      ? await readAllOf(process.stdin)
      : await readFile(list).catch(() => {
          throw new UsageError(`“${list}” cannot be read. Check the path after --from.`);
        });
  const text = bytes.toString('utf8');
  return text.split(text.includes('\0') ? '\0' : /\r?\n/).filter((name) => name !== '');
}

/** What of a folder can be used, by name; folders in it are left alone. */
async function usableIn(folder: string, endings: readonly string[]): Promise<Inputs['inputs']> {
  const names = (await readdir(folder, { withFileTypes: true }))
    .filter((entry) => !entry.isDirectory() && !entry.name.startsWith('.'))
    .map(({ name }) => name)
    .filter((name) => endings.includes(path.extname(name).toLowerCase()))
    .sort((p, q) => naturally.compare(p, q));
  if (names.length === 0) {
    const error = new FotoplanError('NOT_FOUND', `There is no photo in the folder “${folder}”.`);
    return [{ shownAs: folder, error }];
  }
  return names.map((name) => ({ file: path.join(folder, name), shownAs: path.join(folder, name) }));
}

/**
 * The files that a command is to work on: those named, those in folders, those on a list, and standard input. It and each page
 * of a TIFF of several are kept in a folder of their own until clear is called.
 * @param withPdfs - PDFs in folders are taken, too
 * @throws UsageError where there is none, or standard input is asked for twice
 */
export async function readInputs(given: Given, { withPdfs = false } = {}): Promise<Inputs> {
  const list = given.value('from');
  const named = [...given.files, ...(list === undefined ? [] : await namesFrom(list))];
  if (named.length === 0) throw new UsageError('Name at least one photo.');
  if (named.filter((name) => name === '-').length + (list === '-' ? 1 : 0) > 1)
    throw new UsageError('Standard input can be read once only. Give “-” once.');
  const endings = withPdfs ? [...PHOTO_ENDINGS, '.pdf'] : PHOTO_ENDINGS;
  let kept: string | null = null;
  const clear = (): void => {
    if (kept !== null) rmSync(kept, { recursive: true, force: true });
    kept = null;
  };
  const keep = async (name: string, bytes: Uint8Array): Promise<string> => {
    if (kept === null) {
      kept = mkdtempSync(path.join(tmpdir(), 'fotoplan-'));
      process.once('exit', clear);
    }
    const file = path.join(kept, name);
    await writeFile(file, bytes);
    return file;
  };
  const inputs: Inputs['inputs'][number][] = [];
  for (const name of named) {
    if (name === '-') inputs.push({ file: await keep('standard input', await readAllOf(process.stdin)), shownAs: '-' });
    else if (
      await stat(name).then(
        (found) => found.isDirectory(),
        () => false,
      )
    )
      inputs.push(...(await usableIn(name, endings)));
    else inputs.push({ file: name, shownAs: name });
  }
  const pages = await Promise.all(inputs.map((input, i) => pagesOf(input, (k, page) => keep(`${i}-${k}.tif`, page))));
  return { inputs: pages.flat(), clear };
}

/** An input for each page where it is a TIFF of several, or its error where that is damaged; else the input itself. */
async function pagesOf(
  input: Inputs['inputs'][number],
  keep: (page: number, bytes: Uint8Array) => Promise<string>,
): Promise<Inputs['inputs']> {
  if ('error' in input) return [input];
  const { file, shownAs } = input;
  try {
    const pages = (await isTiffFile(file)) ? splitTiff(await readFile(file), shownAs) : null;
    if (pages === null) return [input];
    return await Promise.all(
      pages.map(async (page, k) => ({ file: await keep(k, page), shownAs: `${shownAs}, page ${k + 1}` })),
    );
  } catch (error) {
    if (error instanceof FotoplanError) return [{ shownAs, error }];
    throw error;
  }
}

/** What is no file or cannot be read is told of where it is worked on; a pipe gives its bytes once. */
async function isTiffFile(file: string): Promise<boolean> {
  const isFile = await stat(file).then(
    (found) => found.isFile(),
    () => false,
  );
  const handle = isFile ? await open(file).catch(() => null) : null;
  if (handle === null) return false;
  try {
    const start = new Uint8Array(4);
    await handle.read(start, 0, 4, 0);
    return isTiff(start);
  } finally {
    await handle.close();
  }
}
