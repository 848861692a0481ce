const START_OF_SCAN = 0xda;
const END_OF_IMAGE = Uint8Array.of(0xff, 0xd9);

/**
 * How far a JPEG goes (ITU-T T.81, B.1): to its end, into its picture, or not even there. Thumbnails inside its segments are passed over.
 * @param bytes - a file that begins like a JPEG
 */
export function jpegGoes(bytes: Uint8Array): 'whole' | 'cut' | 'nowhere' {
  let at = 2;
  for (;;) {
    if (at + 4 > bytes.length || bytes[at] !== 0xff) return 'nowhere';
    const marker = bytes[at + 1]!;
    if (marker === START_OF_SCAN) break;
    // a marker may be filled up with further FF
    at += marker === 0xff ? 1 : 2 + ((bytes[at + 2]! << 8) | bytes[at + 3]!);
  }
  // it is among the last bytes of a whole file
  for (let i = bytes.lastIndexOf(0xd9); i > at; i = bytes.lastIndexOf(0xd9, i - 1))
    if (bytes[i - 1] === 0xff) return 'whole';
  return 'cut';
}

/**
 * A JPEG that breaks off, with an end, so that decoders take it as far as it goes: they paint the rest an even grey.
 * @returns the bytes given where nothing is missing
 */
export function endedJpeg<T extends Uint8Array>(bytes: T): T | Uint8Array<ArrayBuffer> {
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8 || jpegGoes(bytes) !== 'cut') return bytes;
  // room that was set aside for a copy that never came is full of zeros, which would be painted as something
  let length = bytes.length;
  while (bytes[length - 1] === 0) length--;
  const ended = new Uint8Array(length + END_OF_IMAGE.length);
  ended.set(bytes.subarray(0, length));
  ended.set(END_OF_IMAGE, length);
  return ended;
}
