import type { PixelImage } from '../raster/pixelImage';
import { withWorkspace, type ByteSlot, type Workspace } from '../kernels/workspace';
import { startArithmeticEncoder } from './arithmeticEncoder';

/*
 * JBIG2 (ITU-T T.88), one generic region a page: lossless, and never a shape in another's place. Template 0 with its
 * adaptive pixels where they are at first, which makes two unbroken rows above the pixel; rows like the one above are told by
 * one bit (typical prediction).
 */

/** Contexts of the generic region's template 0: sixteen pixels. */
const CONTEXTS = 1 << 16;
/** The context in which it is coded whether a row is as the one above. */
const TYPICAL_CONTEXT = 0x9b25;
/** Segment type: page information. */
const PAGE_INFORMATION = 48;
/** Segment type: immediate generic region. */
const IMMEDIATE_GENERIC_REGION = 38;
/** Flag of the generic region: rows that repeat the one above are told in one bit. */
const TYPICAL_PREDICTION = 0x08;
/** (3,-1), (-3,-1), (2,-2), (-2,-2). */
const ADAPTIVE_PIXELS = [0x03, 0xff, 0xfd, 0xff, 0x02, 0xfe, 0xfe, 0xfe] as const;

/** A bilevel picture as the coder asks for it, row by row from the top. */
export interface BilevelRows {
  readonly width: number;
  readonly height: number;
  /**
   * Sets the row's ink to 1.
   * @param into - of this width, all 0
   * @param extent - gets the first and the last column that may be ink; left as it is where the row has none
   */
  readonly row: (y: number, into: Uint8Array, extent: Int32Array) => void;
}

/** @param page - below 128 is ink, in its first channel */
const rowsOf = ({ width, height, channels, data }: PixelImage): BilevelRows => ({
  width,
  height,
  row(y, into, extent) {
    for (let x = 0, at = y * width * channels; x < width; x++, at += channels) {
      if (data[at]! >= 128) continue;
      into[x] = 1;
      if (extent[1]! < 0) extent[0] = x;
      extent[1] = x;
    }
  },
});

/**
 * Codes a bilevel page as a PDF's JBIG2Decode filter wants it: segments without a file header.
 * @param page - grey; below 128 is ink
 */
export const encodeJbig2 = (page: PixelImage): Uint8Array => encodeJbig2Rows(rowsOf(page));

/**
 * The same for ink that lies in no picture of its own.
 * @param rows - at least 1 px either way
 * @returns the segments, as encodeJbig2 gives them
 */
export function encodeJbig2Rows(rows: BilevelRows): Uint8Array {
  const { width, height } = rows;
  const coded = withWorkspace(codeRegion, rows);
  const region = [...u32(width), ...u32(height), ...u32(0), ...u32(0), 0, TYPICAL_PREDICTION, ...ADAPTIVE_PIXELS];
  const head = [
    ...segment(0, PAGE_INFORMATION, 19),
    ...u32(width),
    ...u32(height),
    ...u32(0),
    ...u32(0),
    0,
    0,
    0,
    ...segment(1, IMMEDIATE_GENERIC_REGION, region.length + coded.length),
    ...region,
  ];
  const out = new Uint8Array(head.length + coded.length);
  out.set(head);
  out.set(coded, head.length);
  return out;
}

const u32 = (value: number): number[] => [value >>> 24, (value >>> 16) & 0xff, (value >>> 8) & 0xff, value & 0xff];
/** A segment's header: its number, its kind, nothing it refers to, page 1, and its length. */
const segment = (number: number, kind: number, length: number): number[] => [
  ...u32(number),
  kind,
  0,
  1,
  ...u32(length),
];

/** Free samples in front of a row: the template reads beside it, in steps of eight. */
const ROOM_BEFORE = 4;
/** And behind it. */
const ROOM_BEHIND = 12;
/** Samples that the template reads to either side, at most. */
const REACH = 4;

/** A row as the caller fills it, with the columns between which its ink is (none where the last is before the first), and as the kernels read it. */
interface Row {
  readonly slot: ByteSlot;
  readonly extent: Int32Array;
}

function codeRegion(ws: Workspace, rows: BilevelRows): Uint8Array {
  const { kernels } = ws;
  const { width, height } = rows;
  const encoder = startArithmeticEncoder(ws, CONTEXTS, (width * height) / 4 + height + 4096);
  const emptyRow = (): Row => {
    const slot = ws.u8(ROOM_BEFORE + width + ROOM_BEHIND);
    slot.fill(0);
    return { slot, extent: Int32Array.of(width, -1) };
  };
  let [twoAbove, above, row] = [emptyRow(), emptyRow(), emptyRow()];
  const ink = new Uint8Array(width);
  let typicalBefore = 0;
  for (let y = 0; y < height; y++) {
    ink.fill(0);
    row.extent[0] = width;
    row.extent[1] = -1;
    rows.row(y, ink, row.extent);
    row.slot.set(ink, ROOM_BEFORE);
    const first = Math.min(row.extent[0], above.extent[0]!);
    const last = Math.max(row.extent[1], above.extent[1]!);
    const typical =
      last < first ||
      kernels.sameBytes(
        row.slot.addressOf(ROOM_BEFORE + first),
        above.slot.addressOf(ROOM_BEFORE + first),
        last - first + 1,
      ) === 1
        ? 1
        : 0;
    encoder.code(TYPICAL_CONTEXT, typical ^ typicalBefore);
    typicalBefore = typical;
    if (typical === 0) {
      // to both sides of all ink in reach everything is white in a white context
      const from = Math.max(0, Math.min(first, twoAbove.extent[0]!) - REACH);
      const end = Math.min(width, Math.max(last, twoAbove.extent[1]!) + REACH + 1);
      kernels.codeRow(
        encoder.coder,
        twoAbove.slot.addressOf(ROOM_BEFORE),
        above.slot.addressOf(ROOM_BEFORE),
        row.slot.addressOf(ROOM_BEFORE),
        from,
        end,
        width,
      );
    }
    [twoAbove, above, row] = [above, row, twoAbove];
  }
  return encoder.finish();
}
