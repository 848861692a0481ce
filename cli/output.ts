import { constants } from 'node:fs';
import { access, realpath, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { FotoplanError } from '../core/errors';
import type { Given } from './readArguments';
import { UsageError } from './usageError';

/** Where a result goes. */
export interface Output {
  /** - for standard output, else a path with links followed. */
  readonly file: string;
  /** As it was named. */
  readonly shownAs: string;
  /** Whether a file there may be replaced. */
  readonly force: boolean;
}

/** The file after -o. */
export function readOutput(given: Given, ending: string): string {
  const file = given.value('output');
  if (file === undefined) throw new UsageError(`Say where the result goes: -o OUT${ending}.`);
  return file;
}

/**
 * Says before any work is done whether a result can go there.
 * @param inputs - files that it must not replace
 * @throws UsageError where it is one of the inputs, a folder or a device, where it exists and --force was not given, or where its folder cannot be written to
 */
export async function checkOutput(shownAs: string, inputs: readonly string[], given: Given): Promise<Output> {
  const force = given.has('force');
  if (shownAs === '-') {
    if (process.stdout.isTTY)
      throw new UsageError('The result is no text: send standard output to a file or another program.');
    return { file: '-', shownAs: 'standard output', force };
  }
  const found = await stat(shownAs).catch(() => null);
  if (found?.isDirectory() === true) throw new UsageError(`“${shownAs}” is a folder. Name a file in it.`);
  if (found !== null && !found.isFile())
    throw new UsageError(`“${shownAs}” is not a file. Use -o - for standard output.`);
  if (found !== null)
    for (const input of inputs) {
      const other = await stat(input).catch(() => null);
      if (other !== null && other.ino === found.ino && other.dev === found.dev)
        throw new UsageError(`“${shownAs}” is one of the inputs. Choose another name for the result.`);
    }
  if (found !== null && !force)
    throw new UsageError(`“${shownAs}” exists already. Choose another name, or add --force to replace it.`);
  const file = found === null ? shownAs : await realpath(shownAs);
  const folder = path.dirname(path.resolve(file));
  const isFolder = await stat(folder).then(
    (each) => each.isDirectory(),
    () => false,
  );
  if (!isFolder) throw new UsageError(`There is no folder “${folder}”. Make it first, or choose another.`);
  await access(folder, constants.W_OK).catch(() => {
    throw new UsageError(`Nothing can be written to the folder “${folder}”. Choose another.`);
  });
  return { file, shownAs, force };
}

/** Writes a result whole or not at all: beside its place first, then renamed. A file that is replaced keeps its mode. */
export async function writeOutput({ file, shownAs }: Output, bytes: Uint8Array): Promise<void> {
  if (file === '-') return toStandardOutput(bytes);
  const beside = `${file}.${process.pid}.part`;
  try {
    const mode = await stat(file).then(
      (found) => found.mode,
      () => undefined,
    );
    await writeFile(beside, bytes, mode === undefined ? {} : { mode });
    await rename(beside, file);
  } catch (cause) {
    await rm(beside, { force: true });
    throw new FotoplanError(
      'STORAGE_FAILED',
      `“${shownAs}” cannot be written. Check that its folder has room.`,
      {},
      { cause },
    );
  }
}

const toStandardOutput = (bytes: Uint8Array): Promise<void> =>
  new Promise((resolve, reject) => {
    process.stdout.write(bytes, (error) =>
      error
        ? reject(new FotoplanError('STORAGE_FAILED', 'Standard output cannot be written.', {}, { cause: error }))
        : resolve(),
    );
  });
