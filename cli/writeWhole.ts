import { rename, rm, writeFile } from 'node:fs/promises';
import { FotoplanError } from '../core/errors';

/** Writes a file whole or not at all: beside its place first, then renamed. */
export async function writeWhole(file: string, bytes: Uint8Array): Promise<void> {
  const beside = `${file}.${process.pid}.part`;
  try {
    await writeFile(beside, bytes);
    await rename(beside, file);
  } catch (cause) {
    await rm(beside, { force: true });
    throw new FotoplanError(
      'STORAGE_FAILED',
      `“${file}” cannot be written. Check that its folder exists and has room.`,
      {},
      { cause },
    );
  }
}
