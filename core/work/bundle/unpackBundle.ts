import { Unzip, UnzipInflate } from 'fflate';
import { FotoplanError } from '../../errors';
import { PHOTO_LIMITS } from '../photo/checkPhotoFile';
import { BUNDLE_INDEX, originalPath, readBundle, type Bundle } from './bundle';

/** A zip as a browser's Blob or a file of Node gives it; it is read twice. */
export interface ZipFile {
  readonly size: number;
  stream(): ReadableStream<Uint8Array>;
}

const MOST_INDEX_BYTES = 50_000_000;
const MOST_PDF_BYTES = 200_000_000;
/** Photos and PDFs are packed already; what unpacks to several times its size is made to fill memory. */
const MOST_GROWTH = 4;
const ALWAYS_FINE_BYTES = 20_000_000;

const invalid = (says: string, cause?: unknown): FotoplanError =>
  new FotoplanError('BUNDLE_INVALID', says, {}, { cause });

/**
 * Reads what a zip says of itself, wherever in the zip that stands, and then everything that it names, one after another.
 * @param take - gets each photo (with its fileName) and each bound PDF (with null), whole; what it throws ends the reading
 * @throws FotoplanError BUNDLE_INVALID where it is no bundle, is damaged, lacks something or unpacks to far more than it is
 */
export async function unpackBundle(
  zip: ZipFile,
  take: (path: string, bytes: Uint8Array, fileName: string | null) => void,
): Promise<Bundle> {
  let bundle: Bundle | null = null;
  await eachEntry(
    zip,
    (name) => (name === BUNDLE_INDEX && bundle === null ? MOST_INDEX_BYTES : 0),
    (_name, bytes) => (bundle = readBundle(new TextDecoder().decode(bytes))),
    () => bundle !== null,
  );
  if (bundle === null) throw invalid('This zip was not exported from Fotoplan. Choose one that was.');
  const { handIns } = bundle as Bundle;
  const photos = new Map(
    handIns.flatMap(({ pages }) =>
      pages.map(({ originalId, fileName }): [string, string] => [originalPath(originalId), fileName]),
    ),
  );
  const pdfs = new Set(handIns.flatMap(({ file }) => (file === null ? [] : [file.path])));
  await eachEntry(
    zip,
    (name) => (photos.has(name) ? PHOTO_LIMITS.bytes : pdfs.has(name) ? MOST_PDF_BYTES : 0),
    (name, bytes) => {
      take(name, bytes, photos.get(name) ?? null);
      photos.delete(name);
      pdfs.delete(name);
    },
    () => photos.size + pdfs.size === 0,
  );
  const [missing] = photos.values();
  if (missing !== undefined)
    throw invalid(`The photo “${missing}” is missing in this zip. Export the hand-in once more.`);
  return bundle;
}

/**
 * @param mostBytes - of an entry that is wanted; 0 for one that is not, which is never unpacked
 * @param isDone - the rest need not be read
 */
async function eachEntry(
  zip: ZipFile,
  mostBytes: (name: string) => number,
  take: (name: string, bytes: Uint8Array) => void,
  isDone: () => boolean,
): Promise<void> {
  let problem: unknown = null;
  let together = 0;
  const unzip = new Unzip((file) => {
    const most = mostBytes(file.name);
    if (most === 0) return;
    const parts: Uint8Array[] = [];
    let total = 0;
    file.ondata = (error, data, final) => {
      if (problem !== null) return;
      try {
        if (error !== null) throw invalid('This zip is damaged. Copy it here again.', error);
        total += data.length;
        together += data.length;
        if (total > most || together > ALWAYS_FINE_BYTES + MOST_GROWTH * zip.size)
          throw invalid('This zip holds something larger than any photo. It was not made by Fotoplan.');
        parts.push(data);
        if (final) take(file.name, joined(parts, total));
      } catch (thrown) {
        problem = thrown;
      }
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  const reader = zip.stream().getReader();
  try {
    for (let { done, value } = await reader.read(); !isDone(); { done, value } = await reader.read()) {
      unzip.push(value ?? new Uint8Array(0), done);
      if (done || problem !== null) break;
    }
  } catch (cause) {
    throw invalid('This is not a zip that can be opened. Choose the one that was exported.', cause);
  } finally {
    await reader.cancel();
  }
  if (problem !== null) throw problem instanceof Error ? problem : new Error('unzip failed');
}

function joined(parts: readonly Uint8Array[], total: number): Uint8Array {
  const whole = new Uint8Array(total);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}
