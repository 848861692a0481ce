import { FotoplanError } from '../../errors';

/*
 * A TIFF holds any number of pictures, each told by a directory of tags (TIFF 6.0, section 2); scanners and fax programs put
 * a page into each. Here each becomes a file of its own: its directory, and the bytes of its picture as they stand in the
 * file, so that no pixel is touched.
 */

/** Bytes of a value, by its type. */
const TYPE_BYTES: Readonly<Record<number, number>> = {
  1: 1,
  2: 1,
  3: 2,
  4: 4,
  5: 8,
  6: 1,
  7: 1,
  8: 2,
  9: 4,
  10: 8,
  11: 4,
  12: 8,
  13: 4,
};
const SHORT = 3;
const LONG = 4;

const TAG = {
  newSubfileType: 254,
  subfileType: 255,
  compression: 259,
  stripOffsets: 273,
  stripByteCounts: 279,
  tileOffsets: 324,
  tileByteCounts: 325,
} as const;
/** Tags that point elsewhere in the file and say nothing of the page's pixels: free room, pictures within, places, a camera's notes. */
const LEFT_OUT: ReadonlySet<number> = new Set([288, 289, 330, 34665, 34853, 37724]);
/** JPEG as TIFF 6.0 had it at first, with its tables anywhere in the file. */
const OLD_JPEG = 6;
/** Bits of newSubfileType: a smaller copy of another picture, or its mask. */
const NO_PAGE_BITS = 0b101;
/** The same in subfileType. */
const SMALLER_COPY = 2;

/** More pages than anybody scans at once: the file is spoilt, or made to keep its reader busy. */
const MOST_PAGES = 500;
/** Pages together may be so many times as large as their file: pictures that lie over each other were made for no reader. */
const MOST_GROWTH = 2;

const HEADER_BYTES = 8;
const ENTRY_BYTES = 12;

interface Entry {
  readonly tag: number;
  readonly type: number;
  readonly count: number;
  readonly value: Uint8Array;
}

/**
 * Takes a TIFF of several pages apart.
 * @param bytes - of any file
 * @returns a TIFF for each page, in their order; null where the file is no TIFF, has one page only, or is of the first kind of JPEG
 * @throws FotoplanError PHOTO_CUT_SHORT where it ends before a page that it tells of: decoders would take the first and say
 *   nothing; PHOTO_UNREADABLE where it tells of more than can be
 */
export function splitTiff(bytes: Uint8Array, fileName: string): Uint8Array<ArrayBuffer>[] | null {
  if (!isTiff(bytes)) return null;
  try {
    const tiff = new TiffFile(bytes, startsWith(bytes, LITTLE_ENDIAN));
    const pages = tiff.directories(MOST_PAGES).filter((entries) => tiff.isPage(entries));
    if (pages.length < 2 || pages.some((entries) => tiff.isOldJpeg(entries))) return null;
    let left = MOST_GROWTH * bytes.length;
    return pages.map((entries) => {
      left -= tiff.sizeOf(entries);
      if (left < 0) throw new SpoiltTiff();
      return tiff.only(entries);
    });
  } catch (error) {
    if (error instanceof SpoiltTiff)
      throw new FotoplanError(
        'PHOTO_UNREADABLE',
        `“${fileName}” is damaged inside. Save or scan it again, or make it a PDF.`,
        { name: fileName },
        { cause: error },
      );
    if (error instanceof RangeError)
      throw new FotoplanError(
        'PHOTO_CUT_SHORT',
        `“${fileName}” breaks off before its end. Copy it again from where it is whole.`,
        { name: fileName },
        { cause: error },
      );
    throw error;
  }
}

/** Whether a file begins as a TIFF does. */
export const isTiff = (bytes: Uint8Array): boolean => startsWith(bytes, LITTLE_ENDIAN) || startsWith(bytes, BIG_ENDIAN);

/** How it begins, by the order in which the bytes of its numbers stand. */
const LITTLE_ENDIAN = [0x49, 0x49, 42, 0] as const;
const BIG_ENDIAN = [0x4d, 0x4d, 0, 42] as const;
const startsWith = (bytes: Uint8Array, start: readonly number[]): boolean =>
  start.every((byte, i) => bytes[i] === byte);

/** It tells of what cannot be. */
class SpoiltTiff extends Error {}

class TiffFile {
  private readonly view: DataView;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly little: boolean,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  /** @throws SpoiltTiff where there are more than `most` */
  directories(most: number): (readonly Entry[])[] {
    const found: (readonly Entry[])[] = [];
    const seen = new Set<number>();
    for (let at = this.view.getUint32(4, this.little); at !== 0 && !seen.has(at);) {
      seen.add(at);
      if (seen.size > most) throw new SpoiltTiff();
      const count = this.view.getUint16(at, this.little);
      found.push(Array.from({ length: count }, (_, k) => this.entryAt(at + 2 + ENTRY_BYTES * k)));
      at = this.view.getUint32(at + 2 + ENTRY_BYTES * count, this.little);
    }
    return found;
  }

  private entryAt(at: number): Entry {
    const type = this.view.getUint16(at + 2, this.little);
    const count = this.view.getUint32(at + 4, this.little);
    const size = (TYPE_BYTES[type] ?? 1) * count;
    const from = size <= 4 ? at + 8 : this.view.getUint32(at + 8, this.little);
    return { tag: this.view.getUint16(at, this.little), type, count, value: this.part(from, size) };
  }

  /** @throws RangeError where the file has no such bytes */
  private part(from: number, size: number): Uint8Array {
    if (from + size > this.bytes.length) throw new RangeError('beyond the end of the file');
    return this.bytes.subarray(from, from + size);
  }

  private numbersOf(entries: readonly Entry[], tag: number): number[] {
    const entry = entries.find((each) => each.tag === tag);
    if (entry === undefined || (entry.type !== SHORT && entry.type !== LONG)) return [];
    const view = new DataView(entry.value.buffer, entry.value.byteOffset, entry.value.byteLength);
    return Array.from({ length: entry.count }, (_, k) =>
      entry.type === SHORT ? view.getUint16(2 * k, this.little) : view.getUint32(4 * k, this.little),
    );
  }

  /** Whether a picture's bytes are not found by its directory alone. */
  isOldJpeg(entries: readonly Entry[]): boolean {
    return this.numbersOf(entries, TAG.compression)[0] === OLD_JPEG;
  }

  /** A picture that is no smaller copy and no mask. */
  isPage(entries: readonly Entry[]): boolean {
    const [bits = 0] = this.numbersOf(entries, TAG.newSubfileType);
    const [kind = 0] = this.numbersOf(entries, TAG.subfileType);
    return (bits & NO_PAGE_BITS) === 0 && kind !== SMALLER_COPY;
  }

  private stripsOf(entries: readonly Entry[]): { readonly offsets: number; readonly strips: readonly Uint8Array[] } {
    const tiled = entries.some(({ tag }) => tag === TAG.tileOffsets);
    const offsets = tiled ? TAG.tileOffsets : TAG.stripOffsets;
    const counts = this.numbersOf(entries, tiled ? TAG.tileByteCounts : TAG.stripByteCounts);
    return { offsets, strips: this.numbersOf(entries, offsets).map((from, k) => this.part(from, counts[k] ?? 0)) };
  }

  /** Bytes of a picture and its values, about what a file of its own takes. */
  sizeOf(entries: readonly Entry[]): number {
    const { strips } = this.stripsOf(entries);
    return [...strips, ...entries.map(({ value }) => value)].reduce((sum, { length }) => sum + length, 0);
  }

  /** A file with this picture only. */
  only(entries: readonly Entry[]): Uint8Array<ArrayBuffer> {
    const { offsets, strips } = this.stripsOf(entries);
    const kept = entries.filter(({ tag }) => !LEFT_OUT.has(tag));
    const valuesFrom = HEADER_BYTES + 2 + ENTRY_BYTES * kept.length + 4;
    const sizeOf = ({ tag, value }: Entry): number => (tag === offsets ? 4 * strips.length : value.length);
    const outside = kept.filter((entry) => sizeOf(entry) > 4);
    const stripsFrom = valuesFrom + outside.reduce((sum, entry) => sum + even(sizeOf(entry)), 0);
    const out = new Uint8Array(stripsFrom + strips.reduce((sum, strip) => sum + even(strip.length), 0));
    const view = new DataView(out.buffer);
    out.set(this.bytes.subarray(0, 4));
    view.setUint32(4, HEADER_BYTES, this.little);
    view.setUint16(HEADER_BYTES, kept.length, this.little);
    const places: number[] = [];
    let at = stripsFrom;
    for (const strip of strips) {
      out.set(strip, at);
      places.push(at);
      at += even(strip.length);
    }
    let valueAt = valuesFrom;
    for (const [k, entry] of kept.entries()) {
      const entryAt = HEADER_BYTES + 2 + ENTRY_BYTES * k;
      const moved = entry.tag === offsets;
      view.setUint16(entryAt, entry.tag, this.little);
      view.setUint16(entryAt + 2, moved ? LONG : entry.type, this.little);
      view.setUint32(entryAt + 4, moved ? strips.length : entry.count, this.little);
      const inside = sizeOf(entry) <= 4;
      const to = inside ? entryAt + 8 : valueAt;
      if (moved) places.forEach((place, s) => view.setUint32(to + 4 * s, place, this.little));
      else out.set(entry.value, to);
      if (inside) continue;
      view.setUint32(entryAt + 8, valueAt, this.little);
      valueAt += even(sizeOf(entry));
    }
    return out;
  }
}

/** Values and pictures begin at even places. */
const even = (length: number): number => length + (length & 1);
