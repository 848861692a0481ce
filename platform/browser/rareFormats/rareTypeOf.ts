import type { RareRequest } from './protocol';

/**
 * Which of the formats that browsers do not decode themselves, or not all of them, a file is; null for all others.
 * @param head - its first 12 bytes or more, of a file that checkPhotoFile has let in
 */
export function rareTypeOf(head: Uint8Array): RareRequest['type'] | null {
  const text = String.fromCharCode(...head.subarray(0, 12));
  if (text.startsWith('%PDF-')) return 'application/pdf';
  if (text.startsWith('II*\0') || text.startsWith('MM\0*')) return 'image/tiff';
  if (text.startsWith('\xff\x0a') || text.startsWith('JXL ', 4)) return 'image/jxl';
  // AVIF is in the same boxes, and browsers read it
  return text.startsWith('ftyp', 4) && !text.startsWith('avi', 8) ? 'image/heic' : null;
}
