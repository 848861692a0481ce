import type { PixelImage } from '../raster/pixelImage';
import { createArithmeticEncoder } from './arithmeticEncoder';

/*
 * JBIG2 (ITU-T T.88), one generic region a page: lossless, and never a shape in another's place. Template 0 with its
 * adaptive pixels where they are at first, which makes two unbroken rows above the pixel; rows like the one above are told by
 * one bit (typical prediction).
 */

const CONTEXTS = 1 << 16;
/** The context in which it is coded whether a row is as the one above. */
const TYPICAL_CONTEXT = 0x9b25;
const PAGE_INFORMATION = 48;
const IMMEDIATE_GENERIC_REGION = 38;
const TYPICAL_PREDICTION = 0x08;
/** (3,-1), (-3,-1), (2,-2), (-2,-2). */
const ADAPTIVE_PIXELS = [0x03, 0xff, 0xfd, 0xff, 0x02, 0xfe, 0xfe, 0xfe] as const;

/**
 * Codes a bilevel page as a PDF's JBIG2Decode filter wants it: segments without a file header.
 * @param page - grey; below 128 is ink
 */
export function encodeJbig2({ width, height, channels, data }: PixelImage): Uint8Array {
  const coded = codeRegion(width, height, (i) => (data[i * channels]! < 128 ? 1 : 0));
  const region = [...u32(width), ...u32(height), ...u32(0), ...u32(0), 0, TYPICAL_PREDICTION, ...ADAPTIVE_PIXELS];
  const head = [...segment(0, PAGE_INFORMATION, 19), ...u32(width), ...u32(height), ...u32(0), ...u32(0), 0, 0, 0, ...segment(1, IMMEDIATE_GENERIC_REGION, region.length + coded.length), ...region];
  const out = new Uint8Array(head.length + coded.length);
  out.set(head);
  out.set(coded, head.length);
  return out;
}

const u32 = (value: number): number[] => [value >>> 24, (value >>> 16) & 0xff, (value >>> 8) & 0xff, value & 0xff];
/** A segment's header: its number, its kind, nothing it refers to, page 1, and its length. */
const segment = (number: number, kind: number, length: number): number[] => [...u32(number), kind, 0, 1, ...u32(length)];

function codeRegion(width: number, height: number, inkAt: (i: number) => number): Uint8Array {
  const encoder = createArithmeticEncoder(CONTEXTS);
  // rows with room for what the template reads beside them: two to four samples left and right
  const room = 4;
  let twoAbove = new Uint8Array(width + 2 * room);
  let above = new Uint8Array(width + 2 * room);
  let row = new Uint8Array(width + 2 * room);
  let typicalBefore = 0;
  for (let y = 0; y < height; y++) {
    let typical = 1;
    for (let x = 0, i = y * width; x < width; x++, i++) {
      const ink = inkAt(i);
      row[x + room] = ink;
      if (ink !== above[x + room]) typical = 0;
    }
    encoder.code(TYPICAL_CONTEXT, typical ^ typicalBefore);
    typicalBefore = typical;
    if (typical === 0) {
      // windows that slide along: 5 samples two rows above, 7 one row above, 4 before in the row itself
      let upper = (twoAbove[room]! << 2) | (twoAbove[room + 1]! << 1) | twoAbove[room + 2]!;
      let middle = (above[room]! << 3) | (above[room + 1]! << 2) | (above[room + 2]! << 1) | above[room + 3]!;
      let before = 0;
      for (let x = 0; x < width; x++) {
        const ink = row[x + room]!;
        encoder.code((upper << 11) | (middle << 4) | before, ink);
        upper = ((upper << 1) | twoAbove[x + room + 3]!) & 0x1f;
        middle = ((middle << 1) | (above[x + room + 4] ?? 0)) & 0x7f;
        before = ((before << 1) | ink) & 0x0f;
      }
    }
    [twoAbove, above, row] = [above, row, twoAbove];
  }
  return encoder.finish();
}
