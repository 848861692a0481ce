import { imageSize } from 'image-size';
import { FotoplanError } from '../../errors';
import { jpegGoes } from './jpegEnd';

/** What can be a page, by the name its header goes by; a PDF's pages come in as they are. */
export const ORIGINAL_TYPES = {
  jpg: 'image/jpeg',
  png: 'image/png',
  webp: 'image/webp',
  heic: 'image/heic',
  heif: 'image/heic',
  avif: 'image/avif',
  gif: 'image/gif',
  bmp: 'image/bmp',
  jxl: 'image/jxl',
  'jxl-stream': 'image/jxl',
  tiff: 'image/tiff',
  pdf: 'application/pdf',
} as const;
export type OriginalType = (typeof ORIGINAL_TYPES)[keyof typeof ORIGINAL_TYPES];

export const PHOTO_LIMITS = {
  /** Above this a phone's browser runs out of memory while decoding. */
  megapixels: 50,
  /** Below this no page can be read. */
  shortSidePx: 100,
  bytes: 40_000_000,
} as const;

/** What a file says about itself, without decoding it. */
export interface OriginalFacts {
  readonly type: OriginalType;
  /** Stored size in px, before EXIF orientation; 0 for a PDF, whose pages differ. */
  readonly width: number;
  readonly height: number;
  /** EXIF orientation, 1 to 8, where the header tells. */
  readonly orientation: number;
}

/** The size a reader who honours EXIF sees. */
export const uprightSize = ({ width, height, orientation }: OriginalFacts): { width: number; height: number } =>
  orientation >= 5 ? { width: height, height: width } : { width, height };

/**
 * Looks at a file's bytes, whatever its name says, and refuses what cannot become a page. A JPEG that breaks off within its
 * picture is let in: endedJpeg makes it one that decoders take as far as it goes.
 * @param bytes - the whole file
 * @param name - the file's name, for the sentence
 * @throws FotoplanError PHOTO_EMPTY, PHOTO_NOT_A_PHOTO, PHOTO_CUT_SHORT, PHOTO_TOO_SMALL or PHOTO_TOO_LARGE
 */
export function checkPhotoFile(bytes: Uint8Array, name: string): OriginalFacts {
  const refuse = (code: ConstructorParameters<typeof FotoplanError>[0], message: string): never => {
    throw new FotoplanError(code, message, { name, bytes: bytes.length });
  };
  if (bytes.length === 0) refuse('PHOTO_EMPTY', `“${name}” is empty: 0 bytes arrived. Copy it from the phone again.`);
  if (bytes.length > PHOTO_LIMITS.bytes) {
    refuse(
      'PHOTO_TOO_LARGE',
      `“${name}” has ${Math.round(bytes.length / 1e6)} MB; a photo may have ${PHOTO_LIMITS.bytes / 1e6} MB. Save it as a JPEG.`,
    );
  }
  if (startsWith(bytes, '%PDF-')) return { type: ORIGINAL_TYPES.pdf, width: 0, height: 0, orientation: 1 };
  const seen = measure(bytes);
  const isStub = startsWith(bytes, '\xff\xd8\xff') && jpegGoes(bytes) === 'nowhere';
  if (seen === null && !isStub)
    return refuse('PHOTO_NOT_A_PHOTO', `“${name}” is ${otherFormatOf(bytes) ?? 'not a photo'}. ${WHAT_IS_TAKEN}`);
  if (seen === null || endsEarly(bytes, seen.type))
    return refuse('PHOTO_CUT_SHORT', `“${name}” breaks off before its end. Copy it from the phone again.`);
  const megapixels = (seen.width * seen.height) / 1e6;
  if (megapixels > PHOTO_LIMITS.megapixels) {
    refuse(
      'PHOTO_TOO_LARGE',
      `“${name}” has ${Math.round(megapixels)} megapixels; up to ${PHOTO_LIMITS.megapixels} work. Set the camera to 12 and shoot it again.`,
    );
  }
  if (Math.min(seen.width, seen.height) < PHOTO_LIMITS.shortSidePx) {
    refuse(
      'PHOTO_TOO_SMALL',
      `“${name}” is only ${seen.width} × ${seen.height} pixels, too few to read. Choose the full-size photo.`,
    );
  }
  return seen;
}

function measure(bytes: Uint8Array): OriginalFacts | null {
  // what is none of ours is not even looked into
  if (!KNOWN_STARTS.some((isStart) => isStart(bytes))) return null;
  try {
    const { type, width, height, orientation } = imageSize(bytes);
    const known = Object.hasOwn(ORIGINAL_TYPES, type ?? '')
      ? ORIGINAL_TYPES[type as keyof typeof ORIGINAL_TYPES]
      : undefined;
    return known === undefined ? null : { type: known, width, height, orientation: orientation ?? 1 };
  } catch {
    return null;
  }
}

/** How each kind of photo begins; of HEIC's many brands image-size tells those that are pictures. */
const KNOWN_STARTS: readonly ((bytes: Uint8Array) => boolean)[] = [
  (bytes) => bytes[0] === 0xff && bytes[1] === 0xd8,
  (bytes) => startsWith(bytes.subarray(1), 'PNG'),
  (bytes) => startsWith(bytes, 'RIFF') && startsWith(bytes.subarray(8), 'WEBP'),
  (bytes) => startsWith(bytes, 'II*\0') || startsWith(bytes, 'MM\0*'),
  (bytes) => startsWith(bytes.subarray(4), 'ftyp'),
  (bytes) => startsWith(bytes, 'GIF8'),
  (bytes) => startsWith(bytes, 'BM') && BMP_HEADERS.has(bytes[BMP_HEADER_AT] ?? 0),
  (bytes) => startsWith(bytes, '\xff\x0a') || startsWith(bytes.subarray(4), 'JXL '),
];

/** How long the second header of a BMP is, by its versions since Windows 3; many a text begins with the same two letters. */
const BMP_HEADERS = new Set([40, 52, 56, 64, 108, 124]);
const BMP_HEADER_AT = 14;

const WHAT_IS_TAKEN = 'Choose a JPEG, PNG, WebP, AVIF, HEIC, JPEG XL, TIFF, GIF, BMP or PDF.';

/** Pictures that are not read, by how they begin; where it stands, and what it is called. */
const OTHER_FORMATS = [
  [4, 'jP  ', 'a JPEG 2000 picture'],
  [0, '\xff\x4f\xff\x51', 'a JPEG 2000 picture'],
  [0, '8BPS', 'a layered picture of an image editor'],
  [0, 'P5', 'a PGM picture'],
  [0, 'P6', 'a PPM picture'],
  [0, 'PK\x03\x04', 'a zip'],
] as const;

/** What a file is that is none of ours, where its beginning tells. */
const otherFormatOf = (bytes: Uint8Array): string | null =>
  OTHER_FORMATS.find(([at, start]) => startsWith(bytes.subarray(at), start))?.[2] ?? null;

const startsWith = (bytes: Uint8Array, text: string): boolean =>
  [...text].every((c, i) => bytes[i] === c.charCodeAt(0));

const fourCharacters = (bytes: Uint8Array, at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));

/** True when the file's own structure says that more should follow, and nothing can be made of what is there. */
function endsEarly(bytes: Uint8Array, type: OriginalType): boolean {
  if (type === 'image/tiff' || type === 'application/pdf') return false; // their readers tell
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (type === 'image/webp') return view.getUint32(4, true) + 8 > bytes.length;
  if (type === 'image/png') return !hasPngEnd(bytes, view);
  if (type === 'image/heic' || type === 'image/avif') return !hasWholeBoxes(view);
  if (type === 'image/bmp') return view.getUint32(BMP_SIZE_AT, true) > bytes.length;
  if (type === 'image/jxl') return startsWith(bytes.subarray(4), 'JXL ') && !hasWholeBoxes(view);
  if (type === 'image/gif') return !bytes.subarray(-GIF_END_WITHIN_BYTES).includes(GIF_END);
  return jpegGoes(bytes) === 'nowhere';
}

const BMP_SIZE_AT = 2;
/** A GIF ends with this byte (GIF89a, 27); some programs write a few more after it. */
const GIF_END = 0x3b;
const GIF_END_WITHIN_BYTES = 4;

const BOX_HEADER_BYTES = 8;
const LARGE_BOX_HEADER_BYTES = 16;

/** Top-level boxes (ISO/IEC 14496-12, 4.2) say how long they are, their own header among it; none may reach past the end. */
function hasWholeBoxes(view: DataView): boolean {
  let at = 0;
  while (at + BOX_HEADER_BYTES <= view.byteLength) {
    const size = view.getUint32(at);
    if (size === 0) return true; // to the end of the file
    const isLarge = size === 1;
    if (isLarge && at + LARGE_BOX_HEADER_BYTES > view.byteLength) return false;
    const bytes = isLarge ? Number(view.getBigUint64(at + BOX_HEADER_BYTES)) : size;
    // a box shorter than its header would be walked for ever
    if (bytes < (isLarge ? LARGE_BOX_HEADER_BYTES : BOX_HEADER_BYTES)) return false;
    at += bytes;
  }
  return at === view.byteLength;
}

function hasPngEnd(bytes: Uint8Array, view: DataView): boolean {
  let at = 8;
  while (at + 12 <= bytes.length) {
    if (fourCharacters(bytes, at + 4) === 'IEND') return true;
    at += 12 + view.getUint32(at);
  }
  return false;
}
