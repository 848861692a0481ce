/** APP1 (EXIF with places, XMP), APP3 to APP13, APP15 and comments. APP0 (JFIF), APP2 (ICC) and APP14 (Adobe) tell how the picture is to be read. */
const TELLS = new Set([0xe1, 0xe3, 0xe4, 0xe5, 0xe6, 0xe7, 0xe8, 0xe9, 0xea, 0xeb, 0xec, 0xed, 0xef, 0xfe]);
const START_OF_SCAN = 0xda;
const END = 0xd9;

/**
 * A JPEG without what tells who made it, where and with what (JIF segments, ISO/IEC 10918-1, annex B). The picture itself is the
 * same, bit for bit.
 * @returns the bytes given where there is nothing to take out or they are no JPEG
 */
export function plainJpeg(bytes: Uint8Array): Uint8Array {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return bytes;
  const kept: Uint8Array[] = [bytes.subarray(0, 2)];
  let at = 2;
  while (at + 4 <= bytes.length) {
    const marker = bytes[at + 1]!;
    if (bytes[at] !== 0xff || marker === START_OF_SCAN || marker === END) break;
    // a marker may be filled up with further FF
    if (marker === 0xff) {
      at++;
      continue;
    }
    const length = (bytes[at + 2]! << 8) | bytes[at + 3]!;
    if (length < 2) return bytes;
    if (!TELLS.has(marker)) kept.push(bytes.subarray(at, at + 2 + length));
    at += 2 + length;
  }
  kept.push(bytes.subarray(Math.min(at, bytes.length)));
  const total = kept.reduce((sum, part) => sum + part.length, 0);
  if (total === bytes.length) return bytes;
  const plain = new Uint8Array(total);
  let to = 0;
  for (const part of kept) {
    plain.set(part, to);
    to += part.length;
  }
  return plain;
}
