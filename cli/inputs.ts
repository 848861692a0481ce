import { mkdtempSync, rmSync } from 'node:fs';
import { readdir, readFile, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { FotoplanError } from '../core/errors';
import type { Given } from './readArguments';
import { UsageError } from './usageError';

/** A file to work on. */
export interface Input {
  readonly file: string;
  /** As it was named: - for standard input. */
  readonly shownAs: string;
}

export interface Inputs {
  /** In the order given; a folder that cannot be used stands as its error. */
  readonly inputs: readonly (Input | { readonly shownAs: string; readonly error: FotoplanError })[];
  /** Takes away what was kept of standard input. */
  readonly clear: () => void;
}

const PHOTO_ENDINGS = ['.jpg', '.jpeg', '.png', '.webp', '.avif', '.gif', '.heic', '.heif', '.tif', '.tiff'];
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
 * The files that a command is to work on: those named, those in folders, those on a list, and standard input, which is kept in
 * a folder of its own until clear is called.
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
  const inputs: Inputs['inputs'][number][] = [];
  for (const name of named) {
    if (name === '-') {
      kept = mkdtempSync(path.join(tmpdir(), 'fotoplan-'));
      process.once('exit', clear);
      const file = path.join(kept, 'standard input');
      await writeFile(file, await readAllOf(process.stdin));
      inputs.push({ file, shownAs: '-' });
    } else if (
      await stat(name).then(
        (found) => found.isDirectory(),
        () => false,
      )
    )
      inputs.push(...(await usableIn(name, endings)));
    else inputs.push({ file: name, shownAs: name });
  }
  return { inputs, clear };
}
